import { serviceOptions, serviceOf, valueOfService } from '../../parts/services';
import type { Pricer } from '@half-penny/core/billing';
import type { WeekCell } from '@half-penny/core/entries';
import type { Entry, Member } from '@half-penny/core/model';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { CoinButton } from '../../parts/coin-button';
import { showDay } from '../../parts/days';
import { lengthForEditing, saveLength } from '../../parts/editing';
import { SavedField } from '../../parts/field';
import { SavedSelect } from '../../parts/select';
import { isKey } from '../../parts/keys';
import { showSpan } from '../../parts/spans';

interface CellEntriesProps {
  pricer: Pricer;
  member: Member;
  cell: WeekCell;
  /** The note of the first entry gets the focus. */
  focusNote: boolean;
  onClose: () => void;
}

/** The entries under one cell of the week, folded out. */
export function CellEntries({ pricer, member, cell, focusNote, onClose }: CellEntriesProps) {
  const own = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (focusNote) own.current?.querySelector<HTMLElement>('input')?.focus();
  }, [focusNote]);
  return (
    <div role="row" className="border-b border-rule bg-side">
      <div
        ref={own}
        role="gridcell"
        className="px-3 py-2"
        onKeyDown={(event) => {
          if (!isKey(event, 'week.close')) return;
          event.stopPropagation();
          onClose();
        }}
      >
        <div className="mb-1 flex items-baseline gap-3 text-sm">
          <b>{showDay(cell.day)}</b>
          <Link
            to={`/today?day=${cell.day}&member=${member.id}`}
            className="text-time underline-offset-2 hover:underline"
          >
            Open the day
          </Link>
          <Button kind="quiet" className="ml-auto" onClick={onClose}>
            Fold in
          </Button>
        </div>
        {cell.entries.map((entry) => (
          <EntryLine key={entry.id} {...{ pricer, member, entry }} />
        ))}
        {cell.plans.map((plan) => (
          <p key={plan.id} className="written text-sm text-soft italic">
            {lengthForEditing(plan.seconds)} planned{plan.note && `: ${plan.note}`}
            {cell.entries.some((entry) => entry.planId === plan.id) && ', recorded'}
          </p>
        ))}
        {cell.entries.length === 0 && (
          <p className="text-sm text-soft">Nothing is recorded here yet; type a length into the cell.</p>
        )}
      </div>
    </div>
  );
}

function EntryLine({ pricer, member, entry }: { pricer: Pricer; member: Member; entry: Entry }) {
  const { run, attempt } = useChanges();
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_150px_90px_36px_auto] items-end gap-3 py-1">
      <SavedField label="Note" value={entry.note} save={(note) => run('entry.edit', { id: entry.id, note })} />
      <SavedSelect
        label="Service"
        value={valueOfService(entry)}
        save={(value) => run('entry.edit', { id: entry.id, ...serviceOf(value) })}
        options={serviceOptions(pricer, member, entry.projectId, entry)}
      />
      <SavedField
        label={
          entry.spans.length > 0
            ? entry.spans
                .map((span) => showSpan(span, member.zone))
                .join(', ')
                .slice(0, 24)
            : 'Length'
        }
        value={lengthForEditing(entry.seconds)}
        save={(text) => saveLength(run, entry, member, text)}
      />
      <div className="pb-1">
        <CoinButton
          seconds={entry.seconds}
          billableSeconds={entry.billableSeconds}
          save={(billableSeconds) => run('entry.edit', { id: entry.id, billableSeconds })}
        />
      </div>
      <Button kind="quiet" onClick={() => void attempt('entry.remove', { ids: [entry.id] })}>
        Delete
      </Button>
    </div>
  );
}
