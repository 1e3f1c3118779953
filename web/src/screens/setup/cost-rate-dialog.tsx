import type { Pricer, PriceBook } from '@half-penny/core/billing';
import { faultsIn, needText, readAll, type CostRate } from '@half-penny/core/model';
import { currencyCodes, inStyle, rateUnits, type RateUnit } from '@half-penny/core/money';
import { isDay } from '@half-penny/core/time';
import { useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { EffectSlip } from '../../parts/effect-slip';
import { TextField } from '../../parts/field';
import { FormDay, FormSelect } from '../../parts/form-fields';
import { rateTyped } from '../../parts/read-price';
import { rateSubjectFields, rateSubjectOptions, rateSubjectValue } from '../../parts/rate-subject';

interface CostForm {
  who: string;
  price: string;
  currency: string;
  unit: RateUnit;
  from: string;
}

/** Adds or changes what somebody costs, and shows beforehand what that does to rates that mark it up. */
export function CostRateDialog({
  pricer,
  row,
  onClose,
}: {
  pricer: Pricer;
  row: CostRate | null;
  onClose: () => void;
}) {
  const { run } = useChanges();
  const today = useToday();
  const { register, handleSubmit, setError, control, formState } = useForm<CostForm>({
    defaultValues: row
      ? { ...row, price: inStyle(row.price), who: rateSubjectValue(row) }
      : {
          who: '',
          price: '',
          currency: pricer.book.workspace.currency,
          unit: 'hour',
          from: `${today.slice(0, 4)}-01-01`,
        },
  });
  const form = useWatch({ control });
  const book = useMemo((): PriceBook | null => {
    try {
      const typed = { ...fieldsOf(form as CostForm), id: 'typed' };
      if (!isDay(typed.from)) return null;
      const others = pricer.book.costRates.filter((each) => each.id !== row?.id || each.from !== typed.from);
      return { ...pricer.book, costRates: [...others, typed] };
    } catch {
      return null;
    }
  }, [form, pricer, row]);
  const submit = handleSubmit(async (values) => {
    try {
      const { fields } = readAll({
        from: () => needText(values.from, 'Say from when it holds.'),
        fields: () => fieldsOf(values),
      });
      // From a later day on it is another rate: what the work cost before stays as it was.
      if (row && fields.from === row.from) await run('costRate.edit', { ...fields, id: row.id });
      else await run('costRate.add', fields);
      onClose();
    } catch (thrown) {
      for (const { path, message } of faultsIn(thrown)) setError(path === 'from' ? 'from' : 'price', { message });
    }
  });
  return (
    <Dialog
      title={row ? 'Change what it costs' : 'Add a cost rate'}
      about={row ? 'Work before this day keeps its cost.' : undefined}
      open
      onClose={onClose}
    >
      <form className="grid grid-cols-2 gap-3" onSubmit={(event) => void submit(event)}>
        <FormSelect
          label="Who"
          disabled={row !== null}
          options={rateSubjectOptions(pricer, 'Anybody')}
          control={control}
          name="who"
        />
        <FormDay label="From" fault={formState.errors.from?.message} control={control} name="from" />
        <TextField
          label="Cost"
          inputMode="decimal"
          placeholder="50.00"
          autoFocus
          fault={formState.errors.price?.message}
          {...register('price')}
        />
        <div className="grid grid-cols-2 gap-2">
          <FormSelect
            label="Currency"
            options={currencyCodes.map((code) => [code, code] as const)}
            control={control}
            name="currency"
          />
          <FormSelect
            label="Per"
            options={rateUnits.map((unit) => [unit, unit] as const)}
            control={control}
            name="unit"
          />
        </div>
        <div className="col-span-2">
          <EffectSlip {...{ pricer, book }} />
        </div>
        <div className="col-span-2 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" kind="main">
            {row ? 'Change the cost' : 'Add the cost rate'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** What the form says. @throws Fault where the cost cannot be read */
const fieldsOf = ({ who, price, currency, unit, from }: CostForm): Omit<CostRate, 'id'> => ({
  ...rateSubjectFields(who),
  ...rateTyped(price, unit),
  ...{ currency, from },
});
