import type { Pricer } from '@half-penny/core/billing';
import type { ApprovedPolicy, HandInPeriod } from '@half-penny/core/model';
import { useChanges } from '../../data/session';
import { approvedWords } from '../../parts/approved-words';
import { Section } from '../../parts/page';
import { SavedSelect } from '../../parts/select';

/** What members hand in at once, and whether only what was approved is invoiced. */
export function Checking({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const { handsIn, billsApproved } = pricer.book.workspace;
  return (
    <Section title="Checking">
      <div className="grid gap-5 border-t border-ink px-2 pt-3 md:grid-cols-2">
        <SavedSelect
          label="What is handed in at once"
          hint="From the next time on; what is handed in already stays as it was."
          value={handsIn ?? 'week'}
          options={[
            ['week', 'A week'],
            ['billing period', 'A billing period'],
          ]}
          save={(picked) => run('workspace.edit', { handsIn: picked as HandInPeriod })}
        />
        <SavedSelect
          label="Time on invoices"
          hint="A client can have it otherwise."
          value={billsApproved ?? 'free'}
          options={approvedWords}
          save={(picked) => run('workspace.edit', { billsApproved: picked as ApprovedPolicy })}
        />
      </div>
    </Section>
  );
}
