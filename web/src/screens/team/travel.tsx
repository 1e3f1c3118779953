import { addDays, type Day, type Period } from '@half-penny/core/time';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { Button } from '../../parts/button';
import { showKey, useKeys } from '../../parts/keys';

/** The week or billing period that is shown, with the ways to the one before and the one after. */
export function Travel({ period, go }: { period: Period; go: (day: Day) => void }) {
  const before = () => go(addDays(period.from, -1));
  const after = () => go(addDays(period.to, 1));
  useKeys({ before, after });
  return (
    <nav aria-label="Periods" className="flex items-center gap-1">
      <span className="mr-1">{period.name}</span>
      <Button kind="quiet" aria-label="The one before" title={`The one before  ${showKey('before')}`} onClick={before}>
        <ChevronLeft size={16} />
      </Button>
      <Button kind="quiet" aria-label="The one after" title={`The one after  ${showKey('after')}`} onClick={after}>
        <ChevronRight size={16} />
      </Button>
    </nav>
  );
}
