import { useParams } from 'react-router';
import { usePricer } from '../../data/book';
import { Loading, Page } from '../../parts/page';
import { PartsNav } from '../../parts/parts-nav';
import { Bookkeeping } from './bookkeeping';
import { Data } from './data';
import { Invoicing } from './invoicing';
import { Keys } from './keys';
import { Looks } from './appearance';
import { People } from './people';
import { Studio } from './studio';
import { Recording } from './recording';
import { Rounding } from './rounding';
import { ServicesAndStages } from './services-and-stages';
import { StudioRates } from './studio-rates';

const parts = [
  { path: 'studio', name: 'Studio', of: Studio },
  { path: 'people', name: 'People', of: People },
  { path: 'rates', name: 'Rates', of: StudioRates },
  { path: 'services', name: 'Services and stages', of: ServicesAndStages },
  { path: 'recording', name: 'Recording', of: Recording },
  { path: 'rounding', name: 'Rounding', of: Rounding },
  { path: 'invoicing', name: 'Invoicing', of: Invoicing },
  { path: 'bookkeeping', name: 'Bookkeeping', of: Bookkeeping },
  { path: 'looks', name: 'Looks', of: Looks },
  { path: 'keys', name: 'Keys', of: Keys },
  { path: 'data', name: 'Your data', of: Data },
] as const;

/** Set once, right everywhere: the studio and the rules that hold for everything in it. */
export default function Setup() {
  const { part } = useParams();
  const pricer = usePricer();
  const { of: Part, name } = parts.find((each) => each.path === part) ?? parts[0];
  return (
    <Page title="Setup" aside={name}>
      <PartsNav label="Parts of Setup" base="/setup" parts={parts} current={part} />
      {pricer ? <Part pricer={pricer} /> : <Loading />}
    </Page>
  );
}
