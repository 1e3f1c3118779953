import { writeSentence, type PlacingRule } from '@half-penny/core/capture';
import { useState } from 'react';
import { useRules } from '../../data/trail';
import { useTrailChanges } from '../../data/trail-changes';
import { Check } from '../../parts/check';
import { Button } from '../../parts/button';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { showOutcome } from './evidence';
import { ruleAgain, ruleFor, type NewRule } from './new-rule';
import { RuleDialog } from './rule-dialog';
import type { PartProps } from './sift';

/** The rules in their order: of several that catch the same, the first decides. */
export default function RulesPart({ pricer, member }: PartProps) {
  const change = useTrailChanges();
  const stored = useRules();
  const [open, setOpen] = useState<NewRule | null>(null);
  if (!stored) return <Loading />;
  const rules = stored.toSorted((a, b) => a.order - b.order);
  const move = (rule: PlacingRule, by: -1 | 1) => {
    const at = rules.findIndex((each) => each.id === rule.id);
    const other = rules[at + by];
    if (!other) return;
    void change('Rule moved', {
      rules: {
        put: [
          { ...rule, order: other.order },
          { ...other, order: rule.order },
        ],
      },
    });
  };
  const columns: Column<PlacingRule>[] = [
    {
      key: 'order',
      head: 'Order',
      wideOnly: true,
      width: '56px',
      cell: (rule) => <span className="font-mono">{rules.indexOf(rule) + 1}</span>,
    },
    {
      key: 'sentence',
      head: 'Where…',
      width: 'minmax(0,2fr)',
      cell: (rule) => <span className="written [overflow-wrap:anywhere]">{writeSentence(rule.when)}</span>,
    },
    {
      key: 'then',
      head: '…then',
      width: 'minmax(0,1fr)',
      cell: (rule) => (
        <>
          {showOutcome(pricer, rule.then)}
          {rule.posts && <span className="block text-xs text-soft">posted by itself</span>}
          {rule.since > 0 && (
            <span className="block text-xs text-soft">from {new Date(rule.since).toLocaleDateString('en-GB')}</span>
          )}
        </>
      ),
    },
    {
      key: 'on',
      head: 'In use',
      wideOnly: true,
      width: '70px',
      align: 'center',
      cell: (rule) => (
        <Check
          aria-label={`In use: ${writeSentence(rule.when).slice(0, 80)}`}
          checked={rule.on}
          save={(on) => change(on ? 'Rule in use' : 'Rule switched off', { rules: { put: [{ ...rule, on }] } })}
        />
      ),
    },
    {
      key: 'acts',
      head: 'Change',
      quietHead: true,
      width: '150px',
      align: 'end',
      cell: (rule) => (
        <span className="flex gap-2">
          <Button kind="quiet" aria-label="Earlier" title="Earlier  Alt ↑" onClick={() => move(rule, -1)}>
            ↑
          </Button>
          <Button kind="quiet" aria-label="Later" title="Later  Alt ↓" onClick={() => move(rule, 1)}>
            ↓
          </Button>
          <Button kind="quiet" onClick={() => setOpen(ruleAgain(rule))}>
            Change
          </Button>
        </span>
      ),
    },
  ];
  return (
    <Section
      title="Rules"
      actions={
        <Button kind="main" onClick={() => setOpen(ruleFor({ field: 'title', verb: 'has', text: 'words' }, null))}>
          Write a rule
        </Button>
      }
    >
      <Ledger
        label="Rules"
        rows={rules}
        rowId={(rule) => rule.id}
        rowName={(rule) => writeSentence(rule.when)}
        columns={columns}
        keys={{ 'order.up': (rule) => move(rule, -1), 'order.down': (rule) => move(rule, 1) }}
        onOpen={(rule) => setOpen(ruleAgain(rule))}
        onDelete={(rule) => void change('Rule deleted', { rules: { remove: [rule.id] } })}
        tone={(rule) => (rule.on ? '' : 'bg-side')}
        empty="No rules yet. “Always here” beside a stretch makes one, with its telling words filled in."
      />
      {open && <RuleDialog {...{ pricer, member }} rule={open} onClose={() => setOpen(null)} />}
    </Section>
  );
}
