import type { Pricer } from '@half-penny/core/billing';
import type { Buyer, Client } from '@half-penny/core/model';
import { currencyCodes } from '@half-penny/core/money';
import { useChanges } from '../../data/session';
import { SavedField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { Section } from '../../parts/page';
import { PlaceFields } from '../../parts/place-fields';
import { readTerms } from '../../parts/read-terms';
import { OwnRounding } from '../../parts/rounding-fields';
import { taxOptions } from '../../parts/tax-options';

/** What is known of a client: address, tax, currency, terms, rounding. */
export function ClientDetails({ pricer, client }: { pricer: Pricer; client: Client }) {
  const { run } = useChanges();
  const save = (fields: Partial<Omit<Client, 'id'>>) => run('client.edit', { id: client.id, ...fields });
  return (
    <Section title="Details">
      <div className="grid gap-4 border-t border-ink px-2 pt-3 md:grid-cols-2">
        <SavedField label="Name" value={client.name} save={(name) => save({ name })} />
        <SavedField label="E-mail" inputMode="email" value={client.email} save={(email) => save({ email })} />
        <SavedField
          label="Address, as on the invoice"
          lines={4}
          value={client.address}
          save={(address) => save({ address })}
        />
        <div className="flex flex-col gap-4">
          <SavedField label="Tax number" value={client.taxNumber} save={(taxNumber) => save({ taxNumber })} />
          <SavedField
            label="Country it is taxed in"
            placeholder="GB"
            value={client.taxPlace}
            save={(text) => save({ taxPlace: text.trim().toUpperCase() })}
          />
          <SavedField
            label="Code in the bookkeeping"
            value={client.code}
            save={(code) => save({ code: code.trim() })}
          />
        </div>
        <SavedSelect
          label="Tax on its invoices"
          hint={placeHint(pricer, client)}
          value={client.taxId ?? ''}
          save={(taxId) => save({ taxId: taxId || null })}
          options={[['', 'No tax'], ...taxOptions(pricer)]}
        />
        <SavedSelect
          label="Currency"
          value={client.currency}
          save={(currency) => save({ currency })}
          options={currencyCodes.map((code) => [code, code] as const)}
        />
        <SavedField
          label="Days until an invoice is due"
          inputMode="numeric"
          value={client.termsDays === null ? '' : String(client.termsDays)}
          placeholder={`${pricer.book.workspace.termsDays}, as the studio’s`}
          save={async (text) => save({ termsDays: text.trim() === '' ? null : readTerms(text) })}
        />
        <SavedSelect
          label="Pays as"
          hint="The law on late payment is one between businesses."
          value={client.consumer ? 'consumer' : 'business'}
          save={(who) => save({ consumer: who === 'consumer' })}
          options={[
            ['business', 'A business or public body'],
            ['consumer', 'A private person'],
          ]}
        />
        <div className="md:col-span-2">
          <OwnRounding
            policy={client.rounding}
            otherwise={pricer.book.workspace.rounding}
            whose="the studio’s"
            save={(rounding) => save({ rounding })}
          />
        </div>
      </div>
    </Section>
  );
}

/** What e-invoices say of a client beyond what paper does. */
export function AsBuyer({ client }: { client: Client }) {
  const { run } = useChanges();
  const { asBuyer } = client;
  const save = (fields: Partial<Buyer>) => run('client.edit', { id: client.id, asBuyer: fields });
  return (
    <Section title="For e-invoices">
      <div className="grid gap-4 border-t border-ink px-2 pt-3 md:grid-cols-2">
        <PlaceFields value={asBuyer} otherwise={client.taxPlace} save={save} />
        <SavedField
          label="Reference that it wants on invoices"
          value={asBuyer?.reference ?? ''}
          save={(text) => save({ reference: text.trim() })}
          hint="BT-10. Of a public office in Germany its Leitweg-ID."
        />
      </div>
    </Section>
  );
}

/** Says where the client's country and that of its tax do not go together. */
function placeHint(pricer: Pricer, client: Client): string {
  const tax = client.taxId === null ? undefined : pricer.tax.get(client.taxId);
  if (!tax?.place || !client.taxPlace || tax.place === client.taxPlace) return '';
  return `The client is taxed in ${client.taxPlace}, this tax is one of ${tax.place}.`;
}
