import type { Pricer } from '@half-penny/core/billing';
import type { ReadAnswer } from '@half-penny/core/client-page';
import { needText, readAll, type Quote, type QuoteVersion } from '@half-penny/core/model';
import { dayOf } from '@half-penny/core/time';
import { lastVersion, quoteSums } from '@half-penny/core/quotes';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { CheckBox } from '../../parts/check';
import { DayField } from '../../parts/day-field';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { useSubmit } from '../../parts/use-submit';

interface AnswerProps {
  pricer: Pricer;
  quote: Quote;
  today: string;
  kind: 'accept' | 'decline';
  /** As it came from the client's page. */
  came?: ReadAnswer;
  onClose: () => void;
}

/** What the client said to a quote: yes, to some of it, or no. */
export function AnswerDialog({ pricer, quote, today, kind, came, onClose }: AnswerProps) {
  const { run } = useChanges();
  const version = lastVersion(quote)!;
  const [by, setBy] = useState(came?.answer.by ?? '');
  const [day, setDay] = useState(() => dayAnswered(came, version, pricer) ?? today);
  const [note, setNote] = useState(came?.answer.note ?? '');
  const [projectId, setProjectId] = useState('');
  const [keys, setKeys] = useState<ReadonlySet<string>>(
    () => new Set(came?.answer.keys ?? version.lines.filter((line) => !line.optional).map((line) => line.key)),
  );
  const chosen = version.lines.filter((line) => keys.has(line.key));
  const { fault, faults, submit } = useSubmit(async () => {
    const answer = { id: quote.id, day, note, ...(came && { signed: came.signed }) };
    if (kind === 'decline') await run('quote.decline', { ...answer, by });
    else
      await run('quote.accept', {
        ...answer,
        by: readAll({ by: () => needText(by, 'Say who accepted it.') }).by,
        keys: [...keys],
        ...(projectId && { projectId }),
      });
    onClose();
  }, ['by', 'day', 'keys']);
  // What is chosen is firm: its sum is without nothing.
  const sums = quoteSums(pricer, { ...quote, lines: chosen.map((line) => ({ ...line, optional: false })) }, day);
  const projects = pricer.book.projects.filter((row) => row.clientId === quote.clientId && !row.finished);
  return (
    <Dialog
      open
      wide={kind === 'accept'}
      onClose={onClose}
      title={kind === 'accept' ? `${version.frozen.number} is accepted` : `${version.frozen.number} is declined`}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        {came && (
          <p className="border-l-[3px] border-time bg-time-ground px-3 py-2">
            Signed on the client’s page of {version.frozen.number}, and not changed since.
          </p>
        )}
        {kind === 'accept' && (
          <fieldset>
            <legend className="mb-1 text-xs font-semibold text-soft">What of it</legend>
            {version.lines.map((line) => (
              <label key={line.key} className="flex items-center gap-2 border-b border-rule py-1">
                <CheckBox
                  checked={keys.has(line.key)}
                  onChange={(on) =>
                    setKeys((now) => new Set(on ? [...now, line.key] : [...now].filter((key) => key !== line.key)))
                  }
                />
                <span className="written clamp-2 flex-1">{line.text}</span>
                {line.optional && <span className="text-xs text-soft">optional</span>}
              </label>
            ))}
            <p className="pt-1 text-right font-semibold" role="status">
              {showAmount(sums.firm.totals.net, quote.currency)}{' '}
              <span className="font-normal text-soft">before tax</span>
            </p>
            {faults.keys && (
              <p role="alert" className="text-sm text-fault">
                {faults.keys}
              </p>
            )}
          </fieldset>
        )}
        <div className="grid grid-cols-2 gap-3">
          <TextField label="By" value={by} fault={faults.by} onChange={(event) => setBy(event.target.value)} />
          <DayField label="On" value={day} fault={faults.day} onPick={setDay} />
        </div>
        {kind === 'accept' && quote.projectId === null && (
          <SelectField
            label="Its project"
            value={projectId}
            options={[['', `New: ${quote.title}`], ...projects.map(({ id }) => [id, pricer.tree.pathOf(id)] as const)]}
            onPick={setProjectId}
          />
        )}
        <TextField label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <Button type="submit" kind={kind === 'accept' ? 'main' : 'fault'} className="self-end">
          {kind === 'accept' ? 'Record the acceptance' : 'Record it'}
        </Button>
      </form>
    </Dialog>
  );
}

/** The day by the client's clock, not before the one on which it was given: that clock may go wrong. */
function dayAnswered(came: ReadAnswer | undefined, { frozen }: QuoteVersion, { book }: Pricer): string | undefined {
  if (!came) return undefined;
  const day = dayOf(Date.parse(came.answer.at), book.workspace.zone);
  return day < frozen.day ? frozen.day : day;
}
