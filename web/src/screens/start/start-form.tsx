import { countries, countryOf, guessCountry, percentOn, type Country } from '@half-penny/core/countries';
import { faultsIn } from '@half-penny/core/model';
import { currencyCodes } from '@half-penny/core/money';
import { dayOf, type Day } from '@half-penny/core/time';
import { useForm, type UseFormSetValue } from 'react-hook-form';
import type { WorkspaceEntry } from '../../data/database';
import { startEmpty } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { TextField } from '../../parts/field';
import { FormSelect } from '../../parts/form-fields';
import { zones } from '../../parts/zones';
import { answersAt, fieldOf, FIRST_PROJECT, inputOf, type Answers } from './answers';

/** An own studio on one page: who, where, what an hour costs, and for whom. All of it can be changed in Setup. */
export function StartForm({ onStarted }: { onStarted: (entry: WorkspaceEntry) => void }) {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const guessed = guessCountry(zone, navigator.languages);
  const { register, control, handleSubmit, setError, setValue, watch, formState } = useForm<Answers>({
    defaultValues: {
      member: '',
      studio: '',
      country: guessed?.code ?? '',
      hourly: '',
      client: '',
      project: FIRST_PROJECT,
      zone,
      ...answersAt(guessed),
    },
  });
  const { errors, isSubmitting } = formState;
  const country = countryOf(watch('country'));
  const today = dayOf(Date.now(), zone);
  const submit = handleSubmit(async (answers) => {
    try {
      onStarted(await startEmpty(inputOf(answers, country, today)));
    } catch (thrown) {
      // The first of them last: it is where one goes on.
      for (const { path, message } of [...faultsIn(thrown)].reverse())
        setError(fieldOf(path, answers), { message }, { shouldFocus: true });
    }
  });
  return (
    <form
      aria-label="Start your own"
      className="grid max-w-3xl gap-x-5 gap-y-4 md:grid-cols-2"
      onSubmit={(event) => void submit(event)}
    >
      <TextField label="Your name" autoFocus fault={errors.member?.message} {...register('member')} />
      <TextField
        label="Name on your invoices"
        placeholder="yours, if the studio has no other"
        fault={errors.studio?.message}
        {...register('studio')}
      />
      <FormSelect
        label="Country"
        options={[...countries.map(({ code, name }) => [code, name] as const), ['', 'Another country']]}
        control={control}
        name="country"
        onPicked={(code) => settle(setValue, countryOf(code))}
      />
      <FormSelect
        label="Tax on your invoices"
        options={[
          ...(country?.taxes ?? []).map((tax) => [tax.name, nameOfTax(tax, today)] as const),
          ['', country?.taxes.length ? 'None: not registered' : 'None so far'],
        ]}
        hint={country ? country.taxWords : 'Add your country’s taxes in Setup → Invoicing.'}
        control={control}
        name="tax"
      />
      <TextField
        label={`What you charge an hour, ${watch('currency')}`}
        inputMode="decimal"
        className="md:col-span-2 md:w-[calc(50%-10px)]"
        fault={errors.hourly?.message}
        hint="Clients, projects, people and services can have their own later."
        {...register('hourly')}
      />
      <TextField label="Your first client" fault={errors.client?.message} {...register('client')} />
      <TextField label="Its first project" fault={errors.project?.message} {...register('project')} />
      <details className="border-t border-rule pt-2 md:col-span-2">
        <summary className="cursor-pointer text-time">
          {watch('currency')}, {watch('paper')}, due in {watch('termsDays')} days: change it, or see where it comes from
        </summary>
        <div className="mt-3 grid gap-x-5 gap-y-3 md:grid-cols-4">
          <FormSelect
            label="Currency"
            options={currencyCodes.map((code) => [code, code] as const)}
            control={control}
            name="currency"
          />
          <FormSelect label="Time zone" options={zones(zone)} control={control} name="zone" />
          <FormSelect
            label="Paper"
            options={(['A4', 'Letter'] as const).map((each) => [each, each] as const)}
            control={control}
            name="paper"
          />
          <TextField
            label="Days until due"
            inputMode="numeric"
            fault={errors.termsDays?.message}
            {...register('termsDays')}
          />
        </div>
        {country && <Sources country={country} today={today} />}
      </details>
      <div className="flex flex-wrap items-center justify-end gap-4 md:col-span-2">
        <p className="text-sm text-soft">It stays in this browser. All of it can be changed in Setup.</p>
        <Button type="submit" kind="main" disabled={isSubmitting}>
          Start
        </Button>
      </div>
    </form>
  );
}

/** Another country brings its own money, tax, paper and terms. */
function settle(setValue: UseFormSetValue<Answers>, country: Country | undefined): void {
  for (const [field, value] of Object.entries(answersAt(country))) setValue(field as keyof Answers, value);
}

const nameOfTax = (tax: Country['taxes'][number], today: Day): string =>
  tax.category === 'S' ? `${tax.name} ${percentOn(tax, today)} %` : tax.name;

function Sources({ country, today }: { country: Country; today: Day }) {
  const rows: [string, string][] = [
    ...country.taxes.map((tax): [string, string] => [nameOfTax(tax, today), tax.source]),
    [`Due in ${country.termsDays} days`, country.termsSource],
    ['Paper, and how figures and days are written', 'from memory'],
  ];
  return (
    <table className="mt-4 w-full text-sm">
      <caption className="pb-1 text-left text-xs font-semibold text-soft">Where it comes from</caption>
      <tbody>
        {rows.map(([what, source]) => (
          <tr key={what} className="border-t border-rule align-top">
            <th scope="row" className="py-1 pr-4 text-left font-normal">
              {what}
            </th>
            <td className="py-1 text-soft">{source}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
