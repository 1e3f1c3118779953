import type { PeriodStanding } from '@half-penny/core/checking';

const stations = ['open', 'handed in', 'approved', 'closed'] as const;

const looks: Record<PeriodStanding, string> = {
  open: 'text-soft',
  'handed in': 'text-time font-semibold',
  'sent back': 'rounded-sm bg-attention-ground px-1.5 py-0.5 font-semibold text-attention',
  approved: 'font-semibold text-ink',
  closed: 'text-soft',
};

/** How far a week or billing period is: the way it goes, with what is behind it drawn through, and the standing in words. */
export function StandingWay({ standing }: { standing: PeriodStanding }) {
  // What was sent back is where it was before it was handed in.
  const at = standing === 'sent back' ? 0 : stations.indexOf(standing);
  return (
    <span className="inline-flex items-center gap-2 whitespace-nowrap">
      <svg aria-hidden width="52" height="14" viewBox="0 0 52 14" className="shrink-0">
        <line x1="4" y1="7" x2="48" y2="7" className="stroke-strong" strokeWidth="1" strokeDasharray="1 2" />
        {at > 0 && <line x1="4" y1="7" x2={4 + at * 14.67} y2="7" className="stroke-time" strokeWidth="2" />}
        {standing === 'sent back' && (
          <path d="M 18.67 10 V 3 H 6 M 9 1 L 6 3 L 9 5" className="fill-none stroke-attention" strokeWidth="1.5" />
        )}
        {stations.map((station, index) => (
          <line
            key={station}
            x1={4 + index * 14.67}
            y1={index === at ? 2 : 4.5}
            x2={4 + index * 14.67}
            y2={index === at ? 12 : 9.5}
            className={index <= at ? (standing === 'sent back' ? 'stroke-attention' : 'stroke-time') : 'stroke-strong'}
            strokeWidth={index === at ? 3 : 1}
          />
        ))}
      </svg>
      <span className={looks[standing]}>{standing}</span>
    </span>
  );
}
