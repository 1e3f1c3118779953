import {
  LATELY_DAYS,
  moneyPath,
  thicknessOf,
  type InvoiceBalance,
  type MoneyPath as Path,
  type Pricer,
  type Sums,
  type ToBill,
} from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { showLength } from '@half-penny/core/time';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useToday } from '../../data/queries';

interface MoneyPathProps {
  pricer: Pricer;
  toBill: readonly ToBill[];
  invoices: readonly InvoiceBalance[];
}

interface Station {
  name: string;
  to: string;
  /** What list below it leads to. */
  list: 'to-bill' | 'invoices';
  figure: ReactNode;
  /** 0 to 1; null where the band only passes. */
  thick: number | null;
  remark?: string;
}

/** Where money stands, drawn as one way from the clock to the bank; each station leads to its list. */
export function MoneyPath({ pricer, toBill, invoices }: MoneyPathProps) {
  const today = useToday();
  const path = moneyPath(toBill, invoices, today);
  const { currency, lengthStyle } = pricer.book.workspace;
  const stations = stationsOf(path, currency, showLength(path.seconds, lengthStyle));
  const several = new Set(Object.values(path.sums).flatMap((sums) => [...sums.keys()])).size > 1;
  return (
    <nav aria-label="Where money stands" className="relative mb-8 border-y border-ink border-b-rule">
      <Band stations={stations} />
      <ol className="relative grid grid-cols-2 md:grid-cols-3 xl:grid-cols-6">
        {stations.map(({ name, to, list, figure, remark }, at) => (
          <li key={name} className="border-rule max-xl:border-b xl:border-l xl:first:border-l-0">
            <Link
              to={to}
              className="flex h-full flex-col px-3 py-2 hover:bg-time-ground xl:pt-[72px]"
              onClick={() => document.getElementById(list)?.scrollIntoView({ block: 'start' })}
            >
              <span className="text-xs font-semibold text-soft">{name}</span>
              <span className={`font-mono font-semibold ${at === 0 ? 'text-time' : 'text-money'}`}>{figure}</span>
              {remark && <span className="text-xs text-attention">{remark}</span>}
            </Link>
          </li>
        ))}
      </ol>
      {several && <p className="px-3 pb-1.5 text-xs text-soft max-xl:hidden">Drawn by what is in {currency}.</p>}
    </nav>
  );
}

function stationsOf(path: Path, home: string, recorded: string): Station[] {
  const thick = thicknessOf(path, home);
  const late = path.sums.late.size > 0;
  const stations: Station[] = [
    { name: 'Recorded, not invoiced', to: '/time', list: 'to-bill', figure: `${recorded} h`, thick: thick['to bill'] },
    {
      name: 'To bill',
      to: '/billing',
      list: 'to-bill',
      figure: <Amounts sums={path.sums['to bill']} home={home} />,
      thick: thick['to bill'],
    },
    {
      name: 'On drafts',
      to: '/billing?standing=draft',
      list: 'invoices',
      figure: path.drafts === 0 ? '–' : `${path.drafts} ${path.drafts === 1 ? 'draft' : 'drafts'}`,
      thick: null,
    },
    {
      name: 'Issued, not due',
      to: '/billing?age=ahead',
      list: 'invoices',
      figure: <Amounts sums={path.sums['not due']} home={home} />,
      thick: thick['not due'],
    },
    {
      name: 'Late',
      to: '/billing?standing=overdue',
      list: 'invoices',
      figure: <Amounts sums={path.sums.late} home={home} />,
      thick: thick.late,
      ...(late && { remark: 'past its due day' }),
    },
    {
      name: `Paid in ${LATELY_DAYS} days`,
      to: '/billing?standing=paid',
      list: 'invoices',
      figure: <Amounts sums={path.sums.paid} home={home} />,
      thick: thick.paid,
    },
  ];
  return stations;
}

/** Amounts by currency, the studio's own first. */
function Amounts({ sums, home }: { sums: Sums; home: string }) {
  const rows = [...sums].sort(([a], [b]) => Number(b === home) - Number(a === home) || (a < b ? -1 : 1));
  if (rows.length === 0) return <span className="text-soft">–</span>;
  return rows.map(([currency, amount]) => (
    <span key={currency} className="block whitespace-nowrap">
      {showAmount(amount, currency)}
    </span>
  ));
}

/** Half of the band's height in the drawing, and how far apart stations stand. */
const HALF = 26;
const STEP = 100;
/** Thin as it is, it can be seen that there is a way. */
const THINNEST = 0.03;

/** The way as one band, thick where much stands; time until it is priced, money from there on. */
function Band({ stations }: { stations: readonly Station[] }) {
  const points = stations.flatMap(({ thick }, at) =>
    thick === null ? [] : [{ x: at * STEP + STEP / 2, y: HALF * Math.max(THINNEST, thick) }],
  );
  const [first, last] = [points[0]!, points.at(-1)!];
  const all = [{ ...first, x: 0 }, ...points, { ...last, x: stations.length * STEP }];
  const edge = (side: 1 | -1) => all.map(({ x, y }) => `${x},${HALF + side * y}`);
  const outline = [...edge(-1), ...edge(1).reverse()].join(' ');
  const width = stations.length * STEP;
  return (
    <svg
      aria-hidden
      viewBox={`0 0 ${width} ${2 * HALF}`}
      preserveAspectRatio="none"
      className="absolute inset-x-0 top-3 h-[52px] w-full max-xl:hidden"
    >
      <clipPath id="until-priced">
        <rect x="0" y="0" width={STEP} height={2 * HALF} />
      </clipPath>
      <polygon points={outline} className="fill-money" opacity={0.85} />
      <polygon points={outline} className="fill-time" clipPath="url(#until-priced)" />
    </svg>
  );
}
