import { rightWords } from '@half-penny/core/rights';
import { Link } from 'react-router';
import { usePricer } from '../data/book';
import { useMember } from '../data/queries';
import { useRights } from '../data/rights';
import { Page } from '../parts/page';
import { places, useIsFor, type Place } from './sections';

/** In place of screens that whoever works here has no right for: what it would take, and where they can go. */
export default function NotForYou({ place }: { place: Place }) {
  const rights = useRights();
  const isFor = useIsFor();
  const member = useMember(usePricer());
  const others = places.filter(isFor);
  const needed = (place.any ?? []).map((right) => rightWords[right]);
  return (
    <Page title={place.name}>
      <p className="max-w-xl">
        This is for those who may {needed.join(', or ')}. {member?.name} has the rights “{rights.set?.name}”, which
        leave that out. Whoever sets the studio up can change that under{' '}
        <Link to="/setup/people" className="text-time underline">
          Setup, People
        </Link>
        .
      </p>
      <nav aria-label="Where you can go" className="mt-4">
        <ul className="flex flex-wrap gap-x-6 gap-y-2">
          {others.map(({ path, name }) => (
            <li key={path}>
              <Link to={path} className="font-semibold text-time hover:underline">
                {name}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
    </Page>
  );
}
