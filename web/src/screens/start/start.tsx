import { Link } from 'react-router';
import { useSession } from '../../data/session';
import { scanned } from '../../parts/meeting-link';
import { Page } from '../../parts/page';
import MeetHere from './meet-here';
import { Join } from './join';
import { StartForm } from './start-form';

/** An own studio beside what is open now. */
export default function Start() {
  const { entry } = useSession();
  return (
    <Page title="Start your own">
      <p className="mb-5 max-w-2xl text-soft">
        It opens as a workspace of its own. {entry.demo ? 'The demo' : entry.name.slice(0, 60)} stays in this browser as
        it is{entry.demo ? '' : '; you may want to export it first'}. All workspaces stand in{' '}
        <Link to="/setup/data" className="text-time underline">
          Setup → Your data
        </Link>
        .
      </p>
      <StartForm onStarted={() => location.assign('/today')} />
      <section aria-label="I was invited" className="mt-10">
        <h2 className="mb-1 border-t border-ink pt-4 text-lg font-semibold">I was invited</h2>
        <Join onStarted={() => location.assign('/today')} />
      </section>
      <section aria-label="Your workspace is on another device" className="mt-10">
        <h2 className="mb-1 border-t border-ink pt-4 text-lg font-semibold">Your workspace is on another device</h2>
        <MeetHere given={scanned()} onStarted={() => location.assign('/today')} />
      </section>
    </Page>
  );
}
