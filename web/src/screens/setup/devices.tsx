import type { Pricer } from '@half-penny/core/billing';
import { useRights } from '../../data/rights';
import { useSharedBook } from '../../data/sharing/book';
import { Loading, Section } from '../../parts/page';
import { ShareForm } from './share-form';
import { SharedDevices } from './shared-devices';

/** The workspace on several devices: this one, others, what waits and what did not fit. */
export function Devices({ pricer }: { pricer: Pricer }) {
  const shared = useSharedBook();
  const setsUp = useRights().has('setup');
  if (shared === undefined) return <Loading />;
  return (
    <Section title="On several devices">
      {shared ? (
        <SharedDevices {...{ pricer, shared, setsUp }} />
      ) : (
        <div className="border-t border-ink px-2 pt-3">
          <p className="mb-2 max-w-2xl">
            This workspace is in this browser alone. It can be on several devices: what is done on one is on the others
            a moment later, and what is done off line goes out when the line is back.
          </p>
          {setsUp ? <ShareForm /> : <p className="text-soft">Whoever sets the studio up can begin that.</p>}
        </div>
      )}
    </Section>
  );
}
