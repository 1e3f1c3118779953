import { marginOf } from '@half-penny/core/rates';
import type { Pricer, PriceBook } from '@half-penny/core/billing';
import { faultsIn, needText, rateDefaults, readAll, type Id, type RateLine } from '@half-penny/core/model';
import { inStyle, rateUnits, readDecimal, type RateUnit } from '@half-penny/core/money';
import { isDay } from '@half-penny/core/time';
import { useMemo } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { useToday } from '../data/queries';
import { useChanges } from '../data/session';
import { Button } from './button';
import { Dialog } from './dialog';
import { EffectSlip } from './effect-slip';
import { TextField } from './field';
import { FormDay, FormSelect } from './form-fields';
import type { Place } from './rate-card';
import { rateSubjectFields, rateSubjectOptions } from './rate-subject';
import { rateTyped } from './read-price';
import { CheckBox } from './check';

interface RateForm {
  place: string;
  who: string;
  serviceId: string;
  from: string;
  kind: 'price' | 'markup';
  figure: string;
  unit: RateUnit;
  sentence: string;
  printed: boolean;
}

interface RateDialogProps {
  pricer: Pricer;
  /** The line to change; null for a new one. */
  line: RateLine | null;
  places: readonly Place[];
  currency: string;
  clientId?: Id;
  onClose: () => void;
}

/** Adds or changes a rate, and shows beforehand what that does to everything to bill. */
export function RateDialog({ pricer, line, places, currency, clientId, onClose }: RateDialogProps) {
  const { run } = useChanges();
  const today = useToday();
  const { register, handleSubmit, setError, control, formState } = useForm<RateForm>({
    defaultValues: line ? formOf(line) : { ...emptyForm, from: `${today.slice(0, 4)}-01-01` },
  });
  const form = useWatch({ control });
  const typed = useMemo(() => {
    try {
      return lineOf(form as RateForm, line, places, currency);
    } catch {
      return null;
    }
  }, [form, line, places, currency]);
  const book = useMemo(() => typed && bookWith(pricer.book, line, typed), [pricer, line, typed]);
  const submit = handleSubmit(async (values) => {
    try {
      const { next } = readAll({
        from: () => needText(values.from, 'Say from when it holds.'),
        next: () => lineOf(values, line, places, currency),
      });
      if (!line) await run('rate.add', next);
      else if (next.from === line.from) await run('rate.edit', { ...next, id: line.id });
      else {
        const { from, price, markup, unit, currency: inCurrency, sentence, printed } = next;
        await run('rate.change', { id: line.id, from, price, markup, unit, currency: inCurrency, sentence, printed });
      }
      onClose();
    } catch (thrown) {
      for (const { path, message } of faultsIn(thrown)) setError(path === 'from' ? 'from' : 'figure', { message });
    }
  });
  const margin = form.kind === 'markup' && typed?.markup ? marginOf(typed.markup) : null;
  return (
    <Dialog
      title={line ? 'Change a rate' : 'Add a rate'}
      about={line ? 'Work before this day keeps its rate. Invoiced work never changes.' : undefined}
      open
      onClose={onClose}
    >
      <form className="grid grid-cols-2 gap-3" onSubmit={(event) => void submit(event)}>
        <FormSelect
          label="It says"
          options={[
            ['price', 'the price of time'],
            ['markup', 'a markup on cost'],
          ]}
          control={control}
          name="kind"
        />
        {form.kind === 'markup' ? (
          <TextField
            key="markup"
            label="Markup, %"
            inputMode="decimal"
            placeholder="70"
            hint={margin === null ? 'Added to the member’s cost' : `A margin of ${margin} %`}
            fault={formState.errors.figure?.message}
            {...register('figure')}
          />
        ) : (
          <div key="price" className="grid grid-cols-[minmax(0,1fr)_84px] gap-2">
            <TextField
              label={`Rate, ${currency}`}
              inputMode="decimal"
              placeholder="78.00"
              autoFocus
              fault={formState.errors.figure?.message}
              {...register('figure')}
            />
            <FormSelect
              label="Per"
              options={rateUnits.map((unit) => [unit, unit] as const)}
              control={control}
              name="unit"
            />
          </div>
        )}
        {!line && (
          <>
            <FormSelect
              label="Where"
              options={places.map((place, index) => [String(index), place.name] as const)}
              control={control}
              name="place"
            />
            <FormSelect label="Who" options={rateSubjectOptions(pricer, 'Anyone')} control={control} name="who" />
            <FormSelect
              label="Service"
              options={[['', 'Any'], ...pricer.book.services.map((service) => [service.id, service.name] as const)]}
              control={control}
              name="serviceId"
            />
          </>
        )}
        <FormDay label="From" fault={formState.errors.from?.message} control={control} name="from" />
        {form.kind === 'markup' && (
          <>
            <TextField
              className="col-span-2"
              label="As agreed with the client"
              placeholder="Labour at cost plus 62.5 %, as agreed in March."
              lines={2}
              {...register('sentence')}
            />
            <label className="col-span-2 flex items-center gap-2 text-sm">
              <Controller
                control={control}
                name="printed"
                render={({ field: { value, ...field } }) => <CheckBox {...field} checked={value} />}
              />
              Print this sentence on invoices that use it
            </label>
          </>
        )}
        <div className="col-span-2">
          <EffectSlip {...{ pricer, book }} {...(clientId ? { clientId } : {})} />
        </div>
        <div className="col-span-2 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" kind="main">
            {line ? 'Change the rate' : 'Add the rate'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

const emptyForm: RateForm = {
  place: '0',
  who: '',
  serviceId: '',
  from: '',
  kind: 'price',
  figure: '',
  unit: 'hour',
  sentence: '',
  printed: false,
};

const formOf = (line: RateLine): RateForm => ({
  ...emptyForm,
  from: line.from,
  kind: line.markup === null ? 'price' : 'markup',
  figure: inStyle(line.price ?? line.markup ?? ''),
  unit: line.unit,
  sentence: line.sentence,
  printed: line.printed,
});

type Fields = Omit<RateLine, 'id'>;

/** What the form says as a rate line. @throws Fault where a figure cannot be read */
function lineOf(form: RateForm, line: RateLine | null, places: readonly Place[], currency: string): Fields {
  const place = places[Number(form.place)] ?? places[0]!;
  const { name: _name, ...where } = place;
  const subject: Omit<Fields, 'from'> = line ?? {
    ...rateDefaults,
    ...where,
    ...rateSubjectFields(form.who),
    serviceId: form.serviceId || null,
  };
  const { clientId, contractId, projectId, taskId, memberId, role, serviceId } = subject;
  return {
    ...{ clientId, contractId, projectId, taskId, memberId, role, serviceId },
    from: form.from,
    unit: form.unit,
    ...(form.kind === 'markup'
      ? { price: null, currency: null, markup: readDecimal(form.figure, 'markup') }
      : { ...rateTyped(form.figure, form.unit), currency: line?.currency ?? currency, markup: null }),
    sentence: form.kind === 'markup' ? form.sentence : '',
    printed: form.kind === 'markup' && form.printed,
  };
}

/** The book as it would be with the rate. */
function bookWith(book: PriceBook, line: RateLine | null, typed: Fields): PriceBook | null {
  if (!isDay(typed.from)) return null;
  const replaces = line?.from === typed.from ? line.id : null;
  const others = book.rateLines.filter((each) => each.id !== replaces);
  return { ...book, rateLines: [...others, { ...typed, id: 'typed' }] };
}
