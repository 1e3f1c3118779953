import type { Pricer } from '@half-penny/core/billing';
import type { OutsideList } from '@half-penny/core/model';
import { ExternalLink } from 'lucide-react';
import { useRef, useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { readListFile, readService, UnreadableList } from '../../data/outside';
import { useBy, useRead } from '../../data/read';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showMoment } from '../../parts/days';
import { FileButton } from '../../parts/file-button';
import { Section } from '../../parts/page';
import { FollowedClients } from './followed-clients';
import { FollowedProjects } from './followed-projects';
import { FollowedTasks } from './followed-tasks';
import { HoursBackPart } from './hours-back';

const MOST_PLACES = 100;

/** A list that is followed: reading it, where its tasks go, and what of its hours is to go back. */
export function FollowedList({ pricer, list }: { pricer: Pricer; list: OutsideList }) {
  const { attempt } = useChanges();
  const feed = useRead(
    async (reader) => (await reader.all('feeds')).find((row) => row.name === list.id) ?? null,
    [list.id],
  );
  const tasks = useBy('outsideTasks', 'listId', [list.id]);
  const projects = useBy('outsideProjects', 'listId', [list.id]);
  const { reading, said, places, read, readFile, stop } = useReading(list);
  const file = list.via === 'file';
  return (
    <Section
      title={list.name}
      actions={
        <>
          {file ? (
            <FileButton
              label={list.kind === 'tasks' ? 'Read a file of tasks' : 'Read a file of clients'}
              of={`A file of ${list.name}`}
              accept={list.kind === 'tasks' ? '.ics,.csv,.tsv,.xlsx' : '.csv,.tsv,.xlsx'}
              kind="main"
              onFile={readFile}
            />
          ) : reading ? (
            <Button onClick={stop}>Stop</Button>
          ) : (
            <Button kind="main" onClick={() => void read()}>
              Read now
            </Button>
          )}
          <Button kind="quiet" onClick={() => void attempt('outside.leave', { id: list.id })}>
            Stop following
          </Button>
        </>
      }
    >
      <div className="mb-4 border-t border-ink px-2 pt-2">
        <p className="text-soft">
          {list.kind === 'tasks' ? 'Tasks' : 'Clients'} from{' '}
          {file ? (
            'files; each tells everything, and what is missing in it is taken for closed.'
          ) : (
            <>
              <a href="/tracker" target="_blank" rel="noreferrer" className="text-time underline underline-offset-2">
                the simulated tracker of the local server <ExternalLink size={12} aria-hidden className="inline" />
              </a>
              , read by itself every minute while Half Penny is open.
            </>
          )}{' '}
          {feed === null
            ? 'Not read yet.'
            : feed && `Something was last told on ${showMoment(feed.readAt, pricer.book.workspace.zone)}.`}
        </p>
        <p role="status" className="text-sm">
          {reading ? 'Reading…' : said}
        </p>
        {places.length > 0 && (
          <div role="alert" className="my-2 border-l-[3px] border-fault px-3 text-fault">
            <p className="font-semibold">This cannot be read. Nothing was changed.</p>
            <ul className="mt-1 max-h-48 overflow-auto font-mono text-sm">
              {places.slice(0, MOST_PLACES).map((place) => (
                <li key={place} className="written py-0.5">
                  {place}
                </li>
              ))}
            </ul>
          </div>
        )}
      </div>
      {list.kind === 'clients' ? (
        <FollowedClients {...{ pricer, list }} />
      ) : (
        tasks &&
        projects && (
          <>
            <FollowedProjects {...{ pricer, list, projects, tasks }} />
            <FollowedTasks {...{ pricer, list, projects, tasks }} />
            <HoursBackPart {...{ pricer, list }} />
          </>
        )
      )}
    </Section>
  );
}

/** Reading a list by hand, from its service or a file, with what came of it in words. */
function useReading(list: OutsideList) {
  const session = useSession();
  const changes = useChanges();
  const ended = useRef<AbortController | null>(null);
  const [reading, setReading] = useState(false);
  const [said, setSaid] = useState('');
  const [places, setPlaces] = useState<readonly string[]>([]);
  const [one, many] = list.kind === 'tasks' ? ['task', 'tasks'] : ['client', 'clients'];
  const during = async (task: (signal: AbortSignal) => Promise<string>) => {
    const stop = new AbortController();
    ended.current = stop;
    setReading(true);
    setPlaces([]);
    setSaid('');
    try {
      setSaid(await task(stop.signal));
    } catch (thrown) {
      if (stop.signal.aborted) setSaid('Stopped. What was read before that is there.');
      else setPlaces(thrown instanceof UnreadableList ? thrown.places : [wordsOf(thrown)]);
    } finally {
      setReading(false);
    }
  };
  return {
    reading,
    said,
    places,
    stop: () => ended.current?.abort(),
    read: () =>
      during(async (signal) => {
        const count = await readService(session, list, signal);
        return count === 0 ? 'Nothing changed since.' : `${count} ${count === 1 ? `${one} was` : `${many} were`} told.`;
      }),
    readFile: (file: File) =>
      void during(async () => {
        await readListFile(changes, list, file);
        return `${file.name} was read.`;
      }),
  };
}
