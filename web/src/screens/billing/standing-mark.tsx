import type { Standing } from '@half-penny/core/billing';

/** An invoice's standing in words; amber where it wants attention. */
export function StandingMark({ standing }: { standing: Standing }) {
  const looks: Record<Standing, string> = {
    draft: 'text-soft italic',
    issued: 'text-ink',
    'part paid': 'text-ink',
    overdue: 'rounded-sm bg-attention-ground px-1.5 py-0.5 font-semibold text-attention',
    paid: 'text-soft',
    overpaid: 'rounded-sm bg-attention-ground px-1.5 py-0.5 font-semibold text-attention',
    credited: 'text-soft',
    'written off': 'text-soft',
    open: 'text-ink',
    'set off': 'text-soft',
    refunded: 'text-soft',
    void: 'text-soft line-through',
  };
  return <span className={`whitespace-nowrap ${looks[standing]}`}>{standing}</span>;
}
