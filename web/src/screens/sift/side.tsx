import { explainPriced, type Pricer } from '@half-penny/core/billing';
import { markOf, sayFeature, writeSentence, type PlacingRule } from '@half-penny/core/capture';
import type { Member } from '@half-penny/core/model';
import { useWorthSeen } from '../../data/worth-seen';
import { Slip } from '../../parts/slip';
import { showSpan } from '../../parts/spans';
import { Button } from '../../parts/button';
import { gathered, minutesOf, nameOfEvidence, percentOf, showOutcome } from './evidence';
import type { StretchLine } from './acts';
import { showKey } from '../../parts/keys';

interface SideProps {
  pricer: Pricer;
  member: Member;
  line: StretchLine;
  onAlways: (line: StretchLine) => void;
}

const MOST = 14;

/** What stands behind a stretch: its arithmetic, what was seen in it, and which rule or likeness spoke for it. */
export function StretchSide({ pricer, member, line, onAlways }: SideProps) {
  const { row, posted } = line;
  const worth = useWorthSeen(pricer);
  const { stretch } = row;
  const all = gathered(row);
  const shown = all.slice(0, MOST);
  return (
    <div className="flex flex-col gap-4">
      {line.priced.entry.projectId !== null && worth.on(line.priced.entry.projectId) && (
        <Slip working={explainPriced(pricer, line.priced)} />
      )}
      <section aria-label="What was seen">
        <h2 className="mb-1 text-sm font-semibold">What was seen</h2>
        <ul className="text-sm">
          {shown.map((each, index) => (
            <li key={index} className="flex gap-3 border-b border-rule py-1">
              <span className="written min-w-0 flex-1 [overflow-wrap:anywhere]">
                {nameOfEvidence(each)}
                {each.told && <span className="ml-2 text-xs font-semibold text-money">in the sentence</span>}
                <span className="block text-xs text-soft">
                  {[each.subject.program, each.subject.site, each.subject.people[0]].filter(Boolean).join(' · ')}
                </span>
              </span>
              <span className="font-mono whitespace-nowrap text-time">
                {each.seen > 0 ? minutesOf(each.seen) : `${each.times}×`}
              </span>
            </li>
          ))}
        </ul>
        <p className="pt-1 text-xs text-soft">
          {all.some((each) => each.told)
            ? 'What is marked goes out with the sentence; nothing else of it leaves this browser.'
            : 'Nothing of it stands in the sentence, and nothing of it leaves this browser.'}
        </p>
        {all.length > MOST && <p className="pt-1 text-xs text-soft">and {all.length - MOST} more</p>}
        {stretch.spans.length > 1 && (
          <p className="pt-2 text-xs text-soft">
            In {stretch.spans.length} sittings:{' '}
            {stretch.spans
              .slice(0, 6)
              .map((span) => showSpan(span, member.zone))
              .join(', ')}
            {stretch.spans.length > 6 && '…'}
          </p>
        )}
      </section>
      <section aria-label="Why">
        <h2 className="mb-1 text-sm font-semibold">Why</h2>
        <Why {...{ pricer, line }} />
      </section>
      {!posted && (
        <Button className="self-start" shortcut={showKey('sift.rule')} onClick={() => onAlways(line)}>
          Always here…
        </Button>
      )}
    </div>
  );
}

function Why({ pricer, line }: { pricer: Pricer; line: StretchLine }) {
  const { stretch, offer, features } = line.row;
  const rule = (each: PlacingRule) => `${writeSentence(each.when)} → ${showOutcome(pricer, each.then)}`;
  return (
    <div className="written flex flex-col gap-1 text-sm text-soft">
      {stretch.placing?.outcome && <p>Placed by hand.</p>}
      {stretch.rule ? (
        <>
          <p>
            {stretch.placing?.outcome ? 'A rule would have placed it: ' : 'This rule placed it: '}
            {rule(stretch.rule)}
          </p>
          <p>{stretch.second ? `Next in order: ${rule(stretch.second)}` : 'No other rule matches.'}</p>
        </>
      ) : (
        <p>No rule matches.</p>
      )}
      {offer && (
        <p>
          Likely {showOutcome(pricer, offer.outcome)}
          {offer.confidence !== null && `, right ${percentOf(offer.confidence)} times in 100`}:{' '}
          {offer.reasons.join(', ')}.
        </p>
      )}
      {!offer && !stretch.outcome && features.length > 0 && (
        <p>Nothing like {sayFeature(markOf(features[0]!))} was placed before.</p>
      )}
    </div>
  );
}
