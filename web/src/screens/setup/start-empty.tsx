import { wordsOf } from '../../data/in-words';
import { currencyCodes, readDecimal } from '@half-penny/core/money';
import { dayOf } from '@half-penny/core/time';
import { useForm } from 'react-hook-form';
import { startEmpty } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { FormSelect } from '../../parts/form-fields';
import { zones } from './zones';

interface EmptyForm {
  studio: string;
  member: string;
  address: string;
  currency: string;
  zone: string;
  taxName: string;
  taxPercent: string;
}

const HOUR = 3600;
const DAY = 7.5 * HOUR;

/** The own studio's first details; everything can be changed in Setup later. */
export function StartEmpty({
  onClose,
  onExport,
  onStarted,
}: {
  onClose: () => void;
  onExport: () => void;
  onStarted: () => void;
}) {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const { register, control, handleSubmit, setError, formState } = useForm<EmptyForm>({
    defaultValues: { studio: '', member: '', address: '', currency: 'GBP', zone, taxName: 'VAT', taxPercent: '20' },
  });
  const { errors } = formState;
  const submit = handleSubmit(async (form) => {
    try {
      const taxes = form.taxPercent.trim()
        ? [{ name: form.taxName || 'Tax', percent: readDecimal(form.taxPercent, 'percentage'), note: '' }]
        : [];
      await startEmpty({
        workspace: {
          name: form.studio,
          address: form.address,
          email: '',
          taxNumber: '',
          paymentDetails: '',
          currency: form.currency,
          zone: form.zone,
          daySeconds: DAY,
          amountRounding: 'half away from zero',
          taxMethod: 'invoice',
          rounding: { increment: 1, direction: 'nearest', minimum: 0, per: 'entry' },
          numberPrefix: '',
          numberDigits: 4,
          firstNumber: 1,
          termsDays: 30,
          paper: 'A4',
          lengthStyle: 'h:mm',
        },
        member: {
          name: form.member,
          role: '',
          zone: form.zone,
          owed: [DAY, DAY, DAY, DAY, DAY, 0, 0],
          owesFrom: dayOf(Date.now(), form.zone),
        },
        taxes,
      });
      onStarted();
    } catch (thrown) {
      const path = (thrown as { path?: string }).path ?? '';
      const field = path.startsWith('member') ? 'member' : path.startsWith('workspace') ? 'studio' : 'taxPercent';
      setError(field, { message: wordsOf(thrown) });
    }
  });
  return (
    <Dialog
      title="Start empty"
      open
      onClose={onClose}
      wide
      about={
        <>
          Your own studio opens as a workspace of its own; what is here now stays in this browser.{' '}
          <Button kind="quiet" className="min-h-0 px-0 py-0" onClick={onExport}>
            Export it first
          </Button>
        </>
      }
    >
      <form className="grid gap-3 md:grid-cols-2" onSubmit={(event) => void submit(event)}>
        <TextField label="Your studio" autoFocus fault={errors.studio?.message} {...register('studio')} />
        <TextField label="Your name" fault={errors.member?.message} {...register('member')} />
        <TextField label="Address, as on invoices" lines={3} className="md:col-span-2" {...register('address')} />
        <FormSelect
          label="Currency"
          options={currencyCodes.map((code) => [code, code] as const)}
          control={control}
          name="currency"
        />
        <FormSelect label="Time zone" options={zones(zone)} control={control} name="zone" />
        <TextField label="Tax on invoices" {...register('taxName')} hint="Leave it empty if there is none." />
        <TextField
          label="Its rate, per cent"
          inputMode="decimal"
          fault={errors.taxPercent?.message}
          {...register('taxPercent')}
        />
        <div className="flex justify-end md:col-span-2">
          <Button type="submit" kind="main">
            Start
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
