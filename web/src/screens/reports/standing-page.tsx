import type { Pricer } from '@half-penny/core/billing';
import type { Right } from '@half-penny/core/model';
import { Link, useParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useToday } from '../../data/queries';
import { useRights } from '../../data/rights';
import { Loading, NotThere, Page } from '../../parts/page';
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

const reports: Record<string, (props: StandingProps) => React.ReactNode> = {
  burn: BurnReport,
  'to-bill': ToBillReport,
  owed: OwedReport,
  lost: LostReport,
  words: WordsReport,
};

/** A report on where things stand today. */
export default function StandingPage() {
  const { of = '' } = useParams();
  const pricer = usePricer();
  const today = useToday();
  const Report = reports[of];
  const rights = useRights();
  if (Report && of !== 'words' && !['reports', 'see rates'].every((right) => rights.hasForAll(right as Right)))
    return (
      <Page title="Reports">
        <p className="text-soft">
          This report tells of everybody’s work and what it is worth, which your rights leave out.{' '}
          <Link to="/reports" className="text-time underline">
            Other reports
          </Link>
        </p>
      </Page>
    );
  if (!Report) return <NotThere one="report" all="/reports" reading={false} />;
  return pricer ? <Report pricer={pricer} today={today} /> : <Loading />;
}
