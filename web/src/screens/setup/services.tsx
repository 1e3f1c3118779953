import type { Pricer } from '@half-penny/core/billing';
import { projectKinds, type KindOfWork, type Service } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Button } from '../../parts/button';
import { Checks } from '../../parts/checks';
import { SavedField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { Opener } from '../../parts/opener';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { taxOptions } from '../../parts/tax-options';

/** What the client sees as sold, with what each carries onto entries and invoices. */
export function Services({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const { services, kindsOfWork } = pricer.book;
  const kindsOf = (service: Service) => kindsOfWork.filter((kind) => kind.serviceId === service.id);
  const columns: Column<Service>[] = [
    {
      key: 'name',
      head: 'Service',
      width: 'minmax(0,1fr)',
      cell: (service) => (
        <span className="block">
          <span className={`written clamp-2 ${service.archived ? 'text-soft line-through' : ''}`}>{service.name}</span>
          <span className="written block text-xs text-soft">
            {kindsOf(service)
              .map((kind) => kind.name)
              .join(', ')}
          </span>
        </span>
      ),
      edit: {
        text: (service) => service.name,
        save: (service, name) => run('service.edit', { id: service.id, name }),
      },
    },
    {
      key: 'code',
      head: 'Code',
      width: '80px',
      cell: (service) => <span className="font-mono text-sm">{service.code}</span>,
      edit: { text: (service) => service.code, save: (service, code) => run('service.edit', { id: service.id, code }) },
    },
    {
      key: 'costCode',
      head: 'Cost code',
      width: 'minmax(0,0.7fr)',
      wideOnly: true,
      cell: ({ costCodeId }) => {
        const code = costCodeId === null ? undefined : pricer.costCode.get(costCodeId);
        return code ? <span className="written clamp-2 text-sm">{`${code.code} ${code.name}`}</span> : <None />;
      },
    },
    {
      key: 'tax',
      head: 'Tax',
      width: '104px',
      wideOnly: true,
      cell: ({ taxId }) => {
        const tax = taxId === null ? undefined : pricer.tax.get(taxId);
        return tax ? `${tax.name} ${tax.percent} %` : <span className="text-sm text-soft">the client’s</span>;
      },
    },
    {
      key: 'account',
      head: 'Account',
      width: '88px',
      wideOnly: true,
      cell: (service) => <span className="font-mono text-sm">{service.account || <None />}</span>,
      edit: {
        text: (service) => service.account,
        save: (service, account) => run('service.edit', { id: service.id, account }),
      },
    },
    {
      key: 'more',
      head: 'More',
      quietHead: true,
      width: '92px',
      align: 'end',
      cell: (service) => (
        <Opener
          label={`What ${service.name.slice(0, 60)} carries`}
          trigger={{
            className: 'text-time underline-offset-2 hover:underline',
            'aria-label': `What ${service.name.slice(0, 60)} carries`,
            children: 'Change…',
          }}
          className="w-[min(460px,calc(100vw-24px))] p-4"
          align="end"
        >
          <ServiceFields {...{ pricer, service }} kinds={kindsOf(service)} />
        </Opener>
      ),
    },
  ];
  return (
    <Section title="Services">
      <Ledger
        label="Services"
        rows={services}
        rowId={(service) => service.id}
        rowName={(service) => service.name}
        columns={columns}
        onDelete={(service) => void attempt('service.remove', { id: service.id })}
        empty="A service is what the client sees was done, such as design or a site visit. It can have a rate of its own."
      />
      <AddLine
        label="Add a service"
        button="Add the service"
        fields={[
          { key: 'name', label: 'New service', className: 'w-64' },
          { key: 'code', label: 'Code', className: 'w-24' },
        ]}
        add={({ name = '', code = '' }) => run('service.add', { name, code })}
      />
    </Section>
  );
}

const None = () => <span className="text-soft">–</span>;

function ServiceFields({ pricer, service, kinds }: { pricer: Pricer; service: Service; kinds: readonly KindOfWork[] }) {
  const { run, attempt } = useChanges();
  const save = (fields: Partial<Omit<Service, 'id'>>) => run('service.edit', { id: service.id, ...fields });
  return (
    <div className="flex flex-col gap-4">
      <div className="grid gap-4 sm:grid-cols-2">
        <SavedSelect
          label="Cost code"
          hint="The budget heading its hours fall under"
          value={service.costCodeId ?? ''}
          options={[
            ['', 'None'],
            ...pricer.book.costCodes.map((code) => [code.id, `${code.code} ${code.name}`] as const),
          ]}
          save={(costCodeId) => save({ costCodeId: costCodeId || null })}
        />
        <SavedSelect
          label="Tax"
          hint="Holds on its lines unless the client’s tax is one for everything, such as reverse charge"
          value={service.taxId ?? ''}
          options={[['', 'The client’s'], ...taxOptions(pricer)]}
          save={(taxId) => save({ taxId: taxId || null })}
        />
      </div>
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-soft">Offered for projects of these kinds</legend>
        <Checks
          options={projectKinds.map((kind) => ({ id: kind, name: kind }))}
          chosen={service.kinds}
          save={(kinds) => attempt('service.edit', { id: service.id, kinds })}
        />
      </fieldset>
      <div>
        <div className="mb-1 text-xs font-semibold text-soft">
          Kinds of work in it, which the client sees as one service
        </div>
        {kinds.map((kind) => (
          <div key={kind.id} className="mb-2 flex items-end gap-2">
            <SavedField
              label="Kind of work"
              className="flex-1"
              value={kind.name}
              save={(name) => run('kindOfWork.edit', { id: kind.id, name })}
            />
            <Button
              kind="quiet"
              aria-label={`Remove ${kind.name.slice(0, 60)}`}
              onClick={() => void attempt('kindOfWork.remove', { id: kind.id })}
            >
              Remove
            </Button>
          </div>
        ))}
        <AddLine
          label="Add a kind of work"
          button="Add"
          fields={[{ key: 'name', label: 'New kind of work', placeholder: 'In the venue', className: 'flex-1' }]}
          add={({ name = '' }) => run('kindOfWork.add', { serviceId: service.id, name })}
        />
      </div>
      <Button onClick={() => void attempt('service.edit', { id: service.id, archived: !service.archived })}>
        {service.archived ? 'Bring back' : 'Archive: no longer offer it'}
      </Button>
    </div>
  );
}
