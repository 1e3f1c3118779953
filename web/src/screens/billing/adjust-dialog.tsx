import { DayField } from '../../parts/day-field';
import { needText, readAll, type AdjustmentKind } from '@half-penny/core/model';
import { plainAmount, readAmount, inStyle } from '@half-penny/core/money';
import { readLength, showLength } from '@half-penny/core/time';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';
import { partOf, pickedIds, type BillItem } from './bill-item';

const words: Record<AdjustmentKind, { title: string; button: string; about: string }> = {
  'written down': {
    title: 'Write down or up',
    button: 'Write it down',
    about: 'That much less is billed, and the reason is kept. A minus writes it up.',
  },
  'never billed': {
    title: 'Never bill',
    button: 'Never bill it',
    about: 'It leaves the list for good, and the reason is kept; reports count it as lost.',
  },
  later: {
    title: 'Leave for later',
    button: 'Leave it for later',
    about: 'It waits below until its day, or until you bring it back.',
  },
};

interface AdjustDialogProps {
  kind: AdjustmentKind;
  items: readonly BillItem[];
  onClose: () => void;
}

/** Takes what is picked off the list of what is to bill, with a reason. */
export function AdjustDialog({ kind, items, onClose }: AdjustDialogProps) {
  const { run } = useChanges();
  const [reason, setReason] = useState('');
  const [until, setUntil] = useState('');
  const only = kind === 'written down' && items.length === 1 ? items[0]! : null;
  const [part, setPart] = useState(() => (only ? showPart(only) : ''));
  const { fault, faults, submit } = useSubmit(async () => {
    const typed = readAll({
      part: () => (only ? readPart(only, part) : null),
      reason: () => (kind === 'later' ? '' : needText(reason, 'Say why.')),
    });
    const parts = only ? { parts: { [only.id]: typed.part! } } : {};
    await run('bill.adjust', {
      ...pickedIds(items),
      kind,
      reason,
      ...parts,
      ...(kind === 'later' ? { until: until || null } : {}),
    });
    onClose();
  }, ['part', 'reason']);
  const { title, button, about } = words[kind];
  return (
    <Dialog
      open
      onClose={onClose}
      title={`${title}: ${items.length === 1 ? items[0]!.text.slice(0, 60) || '1 item' : `${items.length} items`}`}
      about={about}
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        {only && (
          <TextField
            label={
              only.item
                ? 'How much of the time'
                : `How much of the cost, ${only.charge!.cost?.currency ?? only.charge!.currency}`
            }
            value={part}
            fault={faults.part}
            autoFocus
            onChange={(event) => setPart(event.target.value)}
          />
        )}
        {kind === 'later' ? (
          <DayField
            label="Until, if you know"
            value={until}
            onPick={setUntil}
            onClear={() => setUntil('')}
            fault={fault}
          />
        ) : (
          <TextField
            label="Why"
            value={reason}
            fault={faults.reason ?? fault}
            autoFocus={!only}
            onChange={(event) => setReason(event.target.value)}
          />
        )}
        <div className="flex gap-2">
          <Button type="submit" kind="main" shortcut="Enter">
            {button}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** A part of an item as it is written: a length, or an amount in its own currency. */
export const showPart = (item: BillItem): string =>
  item.item
    ? showLength(partOf(item))
    : inStyle(plainAmount(partOf(item), item.charge!.cost?.currency ?? item.charge!.currency));

export function readPart(item: BillItem, typed: string): number {
  if (!item.item) return readAmount(typed, item.charge!.cost?.currency ?? item.charge!.currency);
  const negative = typed.trim().startsWith('-') || typed.trim().startsWith('−');
  const length = readLength(typed.trim().replace(/^[-−]/, ''));
  const seconds = length.kind === 'length' ? length.seconds : 0;
  return negative ? -seconds : seconds;
}
