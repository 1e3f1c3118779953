import type { Zone } from '@half-penny/core/time';
import { dayOf } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import {
  addFeed,
  collectFeeds,
  fetchFeeds,
  forgetFeed,
  readFeeds,
  useFeedReadings,
  type Feed,
  type ReadFeed,
} from '../../data/feeds';
import { wordsOf } from '../../data/in-words';
import { useAppSelector } from '../../state/store';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { TextField } from '../../parts/field';
import { Section } from '../../parts/page';
import { showSpan, showTime } from '../../parts/spans';
import { useSubmit } from '../../parts/use-submit';

/** Calendars by address: fetched every quarter of an hour, what is to come planned, what is over in the trail. */
export function Calendars({ zone }: { zone: Zone }) {
  const [feeds, setFeeds] = useState<Feed[]>();
  const [away, setAway] = useState<string>();
  const [typed, setTyped] = useState('');
  const read = useFeedReadings();
  const doing = (asked: Promise<Feed[]>) =>
    asked.then(
      (found) => {
        setFeeds(found);
        setAway(undefined);
        return collectFeeds(zone, Date.now()).catch(() => undefined);
      },
      (thrown: unknown) => setAway(wordsOf(thrown)),
    );
  // Without a server nothing is wrong: there are only no calendars by address.
  useEffect(() => void readFeeds().then(setFeeds, () => setFeeds([])), []);
  const { fault, submit } = useSubmit(async () => {
    setFeeds(await addFeed(typed));
    setTyped('');
    await collectFeeds(zone, Date.now());
  });
  return (
    <Section
      title="Calendars by address"
      actions={
        feeds && feeds.length > 0 ? <Button onClick={() => void doing(fetchFeeds())}>Fetch now</Button> : undefined
      }
    >
      <p className="mb-3 max-w-2xl text-soft">
        The local server fetches them every quarter of an hour; what is moved or called off follows. Addresses stay in
        the server’s folder. One that is made up is at /simulated/calendar.ics of this server.
      </p>
      {feeds && feeds.length > 0 && (
        <ul aria-label="Calendars" className="mb-4 max-w-4xl border-t border-rule">
          {feeds.map((feed) => (
            <li
              key={feed.id}
              className="grid gap-x-6 gap-y-1 border-b border-rule py-2 md:grid-cols-[minmax(0,1.4fr)_minmax(0,1.6fr)_auto]"
            >
              <span className="min-w-0">
                <span className="written block truncate" title={feed.address}>
                  {siteOfFeed(feed.address)}
                </span>
                {feed.fault ? (
                  <span className="block text-sm text-attention">{feed.fault}</span>
                ) : (
                  <span className="block text-sm text-soft">
                    {feed.fetched === null ? 'Not fetched yet' : `Fetched at ${showTime(feed.fetched, zone)}`}
                  </span>
                )}
              </span>
              <Next read={read?.get(feed.id)} zone={zone} />
              <Button
                kind="quiet"
                aria-label={`Follow ${siteOfFeed(feed.address)} no more`}
                onClick={() => void doing(forgetFeed(feed.id))}
              >
                Follow no more
              </Button>
            </li>
          ))}
        </ul>
      )}
      {away && (
        <p role="alert" className="mb-3 text-fault">
          {away}
        </p>
      )}
      <form onSubmit={submit} aria-label="Follow a calendar" className="flex max-w-3xl flex-wrap items-start gap-3">
        <TextField
          label="Address of a calendar"
          className="min-w-72 flex-1"
          inputMode="url"
          placeholder="https://…/calendar.ics"
          value={typed}
          fault={fault}
          onChange={(event) => setTyped(event.target.value)}
        />
        <Button type="submit" className="mt-5">
          Follow it
        </Button>
      </form>
    </Section>
  );
}

/** The address without its path, which may be a secret. */
const siteOfFeed = (address: string): string => {
  const url = new URL(address);
  return `${url.host}/…${url.pathname.slice(url.pathname.lastIndexOf('/'))}`;
};

/** What comes next of a calendar, and what of it could not be read. */
function Next({ read, zone }: { read: ReadFeed | undefined; zone: Zone }) {
  const now = useAppSelector((state) => Math.floor(state.clock.now / 60_000) * 60_000);
  const next = read?.planned.find((each) => each.end > now);
  return (
    <span className="min-w-0 text-sm">
      {next ? (
        <>
          <span className="text-soft">Next: </span>
          {dayOf(next.start, zone) !== dayOf(now, zone) && `${showShortDay(dayOf(next.start, zone))}, `}
          <span className="font-mono">{showSpan(next, zone)}</span> <span className="written">{next.title}</span>
        </>
      ) : (
        read && <span className="text-soft">Nothing is planned in the next two weeks.</span>
      )}
      {read?.faults.map((each) => (
        <span key={each} className="block text-attention">
          {each}
        </span>
      ))}
    </span>
  );
}
