import type { Pricer } from '@half-penny/core/billing';
import { wordsOf } from '../../data/in-words';
import { currencyCodes } from '@half-penny/core/money';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { FormSelect } from '../../parts/form-fields';

interface ClientForm {
  name: string;
  address: string;
  email: string;
  currency: string;
  taxId: string;
}

/** The few things a client cannot do without; the rest is on its page. */
export function AddClient({ pricer, onClose }: { pricer: Pricer; onClose: () => void }) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const { workspace, taxes } = pricer.book;
  const { register, control, handleSubmit, setError, formState } = useForm<ClientForm>({
    defaultValues: { name: '', address: '', email: '', currency: workspace.currency, taxId: taxes[0]?.id ?? '' },
  });
  const submit = handleSubmit(async ({ taxId, ...client }) => {
    try {
      const row = await run('client.add', {
        ...client,
        taxId: taxId || null,
        taxNumber: '',
        termsDays: null,
        archived: false,
      });
      // The next thing to do is its first project.
      void navigate(`/clients/${row.changes[0]!.id}`, { state: { fresh: true } });
    } catch (thrown) {
      setError('name', { message: wordsOf(thrown) });
    }
  });
  return (
    <Dialog title="Add a client" open onClose={onClose}>
      <form className="grid grid-cols-2 gap-3" onSubmit={(event) => void submit(event)}>
        <TextField
          label="Name"
          autoFocus
          className="col-span-2"
          fault={formState.errors.name?.message}
          {...register('name')}
        />
        <TextField label="Address, as on the invoice" lines={3} className="col-span-2" {...register('address')} />
        <TextField label="E-mail" inputMode="email" className="col-span-2" {...register('email')} />
        <FormSelect
          label="Currency"
          options={currencyCodes.map((code) => [code, code] as const)}
          control={control}
          name="currency"
        />
        <FormSelect
          label="Tax"
          options={[['', 'No tax'], ...taxes.map((tax) => [tax.id, `${tax.name} ${tax.percent} %`] as const)]}
          control={control}
          name="taxId"
        />
        <div className="col-span-2 flex justify-end">
          <Button type="submit" kind="main">
            Add the client
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
