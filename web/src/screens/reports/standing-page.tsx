import type { Pricer } from '@half-penny/core/billing';
import type { Right } from '@half-penny/core/model';
import { Link, useParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useToday } from '../../data/queries';
import { useRights } from '../../data/rights';
import { Loading, NotThere, Page } from '../../parts/page';
import { ClosedReport } from './closed-report';
import { BurnReport } from './burn-report';
import { LostReport } from './lost-report';
import { WordsReport } from './words-report';
import { OwedReport, ToBillReport } from './age-reports';
import type { Day } from '@half-penny/core/time';

/** What a report on where things stand is given. */
export interface StandingProps {
  pricer: Pricer;
  today: Day;
}

interface Standing {
  of: (props: StandingProps) => React.ReactNode;
  /** What it takes to see it, for all work. */
  all: readonly Right[];
}

const money: readonly Right[] = ['reports', 'see rates'];
const reports: Record<string, Standing> = {
  burn: { of: BurnReport, all: money },
  'to-bill': { of: ToBillReport, all: money },
  owed: { of: OwedReport, all: money },
  lost: { of: LostReport, all: money },
  closed: { of: ClosedReport, all: ['reports'] },
  words: { of: WordsReport, all: [] },
};

/** A report on where things stand today. */
export default function StandingPage() {
  const { of = '' } = useParams();
  const pricer = usePricer();
  const today = useToday();
  const rights = useRights();
  const report = Object.hasOwn(reports, of) ? reports[of] : undefined;
  if (!report) return <NotThere one="report" all="/reports" reading={false} />;
  if (!report.all.every((right) => rights.hasForAll(right)))
    return (
      <Page title="Reports">
        <p className="text-soft">
          This report tells of everybody’s work, which your rights leave out.{' '}
          <Link to="/reports" className="text-time underline">
            Other reports
          </Link>
        </p>
      </Page>
    );
  const Report = report.of;
  return pricer ? <Report pricer={pricer} today={today} /> : <Loading />;
}
