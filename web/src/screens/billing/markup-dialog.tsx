import type { Pricer } from '@half-penny/core/billing';
import { readMarkup } from '@half-penny/core/costs';
import { costTypes, type CostType, type Id } from '@half-penny/core/model';
import { useState } from 'react';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';
import type { BillItem } from './bill-item';

interface MarkupDialogProps {
  pricer: Pricer;
  /** What would be marked up. */
  items: readonly BillItem[];
  onClose: () => void;
  /** Marks them up for this invoice alone. */
  forInvoice: (ids: readonly Id[], percent: string) => unknown;
}

/** Percent on everything that is picked: for this invoice, or agreed for the project from today on. */
export function MarkupDialog({ pricer, items, onClose, forInvoice }: MarkupDialogProps) {
  const { run } = useChanges();
  const today = useToday();
  const [typed, setTyped] = useState('');
  const [lasting, setLasting] = useState(false);
  const [asked, setAsked] = useState<{ percent: string; meant: string } | null>(null);
  const marked = items.filter((item) => !item.charge?.agreed);
  const types = typesOf(marked);
  const projects = [...new Set(marked.filter((item) => item.charge).map((item) => item.projectId))];
  const apply = async (percent: string) => {
    if (lasting) {
      await run('markup.agree', { projectIds: projects, costTypes: types, from: earliest(marked, today), percent });
    } else
      await forInvoice(
        marked.map((item) => item.id),
        percent,
      );
    onClose();
  };
  const { fault, submit } = useSubmit(async () => {
    const { percent, meant } = readMarkup(typed);
    if (meant !== null) return setAsked({ percent, meant });
    await apply(percent);
  });
  const answer = useSubmit(async () => apply(asked!.meant));
  const keep = useSubmit(async () => apply(asked!.percent));
  const names = projects.map((id) => pricer.tree.pathOf(id)).join(', ');
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Mark up ${marked.length} ${marked.length === 1 ? 'item' : 'items'}`}
      about="Added to each cost. Agreed amounts keep their price."
    >
      {asked ? (
        <div className="flex flex-col gap-3">
          <p>
            You wrote {asked.percent}. Is {asked.meant} % meant, or {asked.percent} %?
          </p>
          {(answer.fault ?? keep.fault) && (
            <p role="alert" className="text-fault">
              {answer.fault ?? keep.fault}
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <Button kind="main" autoFocus onClick={() => answer.submit()}>
              {asked.meant} %
            </Button>
            <Button onClick={() => keep.submit()}>{asked.percent} %</Button>
            <Button onClick={() => setAsked(null)}>Change it</Button>
          </div>
        </div>
      ) : (
        <form onSubmit={submit} className="flex flex-col gap-4">
          <TextField
            label="Markup in percent"
            inputMode="decimal"
            value={typed}
            fault={fault}
            autoFocus
            onChange={(event) => setTyped(event.target.value)}
          />
          <fieldset className="flex flex-col gap-1">
            <legend className="pb-1 text-xs font-semibold text-soft">It holds</legend>
            <label className="flex gap-2">
              <input type="radio" checked={!lasting} onChange={() => setLasting(false)} />
              for this invoice
            </label>
            {projects.length > 0 && (
              <label className="flex gap-2">
                <input type="radio" checked={lasting} onChange={() => setLasting(true)} />
                <span>
                  for {names.slice(0, 120)}, {types.join(' and ')} costs, from now on
                </span>
              </label>
            )}
          </fieldset>
          <div className="flex gap-2">
            <Button type="submit" kind="main" shortcut="Enter">
              Mark up
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

const earliest = (items: readonly BillItem[], today: string): string =>
  items.reduce((first, { day }) => (day && day < first ? day : first), today);

function typesOf(items: readonly BillItem[]): Exclude<CostType, 'labour'>[] {
  const found = new Set(items.map((item) => item.charge?.costType));
  return costTypes.filter((type): type is Exclude<CostType, 'labour'> => type !== 'labour' && found.has(type));
}
