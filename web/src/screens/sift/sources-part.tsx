import type { Activity, CaptureSettings } from '@half-penny/core/capture';
import { wordsOf } from '../../data/in-words';
import { addDays } from '@half-penny/core/time';
import {
  callFields,
  guessCallMapping,
  mapCalls,
  readMail,
  readPhoneXml,
  type CallField,
  type CallMapping,
} from '@half-penny/formats/activity';
import { readCalendar } from '@half-penny/formats/calendar';
import { readTable, type Table } from '@half-penny/formats/hours';
import { useState } from 'react';
import {
  deviceOfFile,
  forgetImpossible,
  keepActivities,
  saveSettings,
  useCaptureSettings,
  useActivityCount,
} from '../../data/trail';
import { Button } from '../../parts/button';
import { Check } from '../../parts/check';
import { ColumnFields } from '../../parts/column-fields';
import { SavedField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { FileButton } from '../../parts/file-button';
import { Loading, Section } from '../../parts/page';
import { captureWork } from '../../workers/capture';
import { Calendars } from './calendars';
import { DevicesSection } from './devices';
import { Keeping } from './keeping';
import type { PartProps } from './sift';
import { TrailCopy } from './trail-copy';

/** Where activity comes from, how it becomes stretches, what is kept of it and how long. */
export default function SourcesPart(props: PartProps) {
  const settings = useCaptureSettings();
  const count = useActivityCount();
  if (!settings || count === undefined) return <Loading />;
  const minutes = (text: string) => Math.round(Number(text.replace(',', '.')));
  return (
    <>
      <Section
        title="This trail"
        actions={
          <Button
            kind={settings.paused ? 'main' : 'plain'}
            aria-pressed={settings.paused}
            onClick={() => void saveSettings({ paused: !settings.paused })}
          >
            {settings.paused ? 'Record again' : 'Pause recording'}
          </Button>
        }
      >
        <p className="max-w-2xl text-soft">
          {count.toLocaleString('en-GB')} activities are kept, in this browser only. They are in no workspace file, no
          workspace’s backup, no invoice and no hand-in.
          {settings.paused && (
            <b className="text-attention"> Recording is paused: what comes in meanwhile is thrown away.</b>
          )}
        </p>
      </Section>
      <DevicesSection zone={props.member.zone} />
      <Calendars zone={props.member.zone} />
      <Files {...props} settings={settings} />
      <TrailCopy />
      <Section title="How it becomes stretches">
        <div className="grid max-w-3xl gap-4 md:grid-cols-4">
          <SavedField
            label="Away after, minutes"
            inputMode="numeric"
            value={String(settings.awayAfter)}
            save={(text) => saveSettings({ awayAfter: minutes(text) })}
            hint="1 to 60 without a sign"
          />
          <SavedField
            label="Longest break, minutes"
            inputMode="numeric"
            value={String(settings.gap)}
            save={(text) => saveSettings({ gap: minutes(text) })}
            hint="within one stretch"
          />
          <SavedField
            label="Shortest, minutes"
            inputMode="numeric"
            value={String(settings.shortest)}
            save={(text) => saveSettings({ shortest: minutes(text) })}
            hint="a shorter one goes to what is around it"
          />
          <SavedField
            label="A glance, seconds"
            inputMode="numeric"
            value={String(settings.blip)}
            save={(text) => saveSettings({ blip: minutes(text) })}
            hint="belongs to what was before"
          />
        </div>
        <label className="mt-4 flex items-center gap-2">
          <Check
            checked={settings.sentencesFromTitles}
            save={(sentencesFromTitles) => saveSettings({ sentencesFromTitles })}
          />
          Sentences for the client may be made of page titles and of what e-mails are about
        </label>
      </Section>
      <Keeping settings={settings} />
    </>
  );
}

const MOST_FAULTS = 8;

const callNames: Record<CallField, string> = {
  day: 'Day',
  time: 'Time',
  length: 'Length',
  number: 'Number',
  name: 'Name',
  type: 'Taken or missed',
};

function Files({ settings, member, today }: PartProps & { settings: CaptureSettings }) {
  const [told, setTold] = useState<string>();
  const [faults, setFaults] = useState<string[]>([]);
  const own = settings.ownAddresses;
  const [calls, setCalls] = useState<{ name: string; table: Table; mapping: CallMapping } | null>(null);
  const kept = async (name: string, activities: readonly Activity[], problems: readonly string[]) => {
    const refused = activities.length > 0 ? await keepActivities(deviceOfFile(name, activities), 1, activities) : [];
    setTold(`${(activities.length - refused.length).toLocaleString('en-GB')} activities imported from ${name}.`);
    const all = [...problems, ...refused];
    setFaults(all.length > MOST_FAULTS ? [...all.slice(0, MOST_FAULTS), `and ${all.length - MOST_FAULTS} more.`] : all);
  };
  const take = async (file: File) => {
    setTold(undefined);
    setFaults([]);
    setCalls(null);
    try {
      const name = file.name.toLowerCase();
      if (name.endsWith('.jsonl')) {
        const read = await captureWork().takeLines(file);
        setTold(`${read.taken.toLocaleString('en-GB')} activities imported from ${file.name}.`);
        setFaults(read.faults.slice(0, 8).map((each) => `Line ${each.line}: ${each.message}`));
      } else if (name.endsWith('.ics')) {
        const range = { from: addDays(today, -365), to: today, zone: member.zone };
        const { events, faults: wrong } = await readCalendar(await file.text(), range);
        const timed = events.flatMap((event): Activity[] =>
          event.start !== null && event.seconds !== null
            ? [
                {
                  kind: 'meeting',
                  from: event.start,
                  to: event.start + event.seconds * 1000,
                  title: event.title,
                  people: event.guests.map(addressOf),
                },
              ]
            : [],
        );
        await kept(
          file.name,
          timed,
          wrong.map((each) => `Line ${each.line}: ${each.message}`),
        );
      } else if (name.endsWith('.mbox') || name.endsWith('.eml')) {
        const { activities, faults: wrong } = await readMail(await file.text(), own);
        await kept(
          file.name,
          activities,
          wrong.map((each) => each.message),
        );
      } else if (name.endsWith('.xml')) {
        const { activities, faults: wrong, missed } = readPhoneXml(await file.text());
        await kept(file.name, activities, [...wrong.map((each) => each.message), ...missedIn(missed)]);
      } else {
        const table = await readTable(file);
        setCalls({ name: file.name, table, mapping: guessCallMapping(table) });
      }
    } catch (thrown) {
      setFaults([wordsOf(thrown)]);
    }
  };
  const removeImpossible = async () => {
    const count = await forgetImpossible();
    setTold(
      count === 0
        ? 'Everything in the trail has times that can be true.'
        : `${count.toLocaleString('en-GB')} activities with impossible times were removed.`,
    );
  };
  const mapped = calls && mapCalls(calls.table, calls.mapping, member.zone);
  return (
    <Section title="Files">
      <p className="mb-3 max-w-2xl text-soft">
        Calendars (.ics), e-mails (.mbox, .eml: when, who and what about, never what they say), call lists (CSV or XLSX
        of any carrier, or XML of a telephone with its calls and messages), and activity as JSON Lines (.jsonl).
        Importing a file again changes nothing.
      </p>
      <div className="flex flex-wrap items-end gap-4">
        <FileButton
          kind="main"
          label="Import a file"
          accept=".ics,.mbox,.eml,.csv,.tsv,.xlsx,.xml,.jsonl"
          onFile={(file) => void take(file)}
        />
        <Button kind="quiet" onClick={() => void removeImpossible()}>
          Remove what has impossible times
        </Button>
      </div>
      {told && (
        <p role="status" className="mt-3">
          {told}
        </p>
      )}
      {faults.length > 0 && (
        <div role="alert" className="mt-3 text-fault">
          <ul>
            {faults.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </div>
      )}
      {calls && mapped && (
        <div className="mt-4">
          <div className="grid gap-3 md:grid-cols-5">
            <ColumnFields
              fields={callFields}
              names={callNames}
              table={calls.table}
              columns={calls.mapping.columns}
              onChange={(columns) => setCalls({ ...calls, mapping: { ...calls.mapping, columns } })}
            />
            <SelectField
              label="A plain number is"
              value={calls.mapping.lengthIn}
              options={[
                ['seconds', 'seconds'],
                ['minutes', 'minutes'],
              ]}
              onPick={(picked) =>
                setCalls({
                  ...calls,
                  mapping: { ...calls.mapping, lengthIn: picked as CallMapping['lengthIn'] },
                })
              }
            />
          </div>
          {mapped.faults.length > 0 && (
            <div role="alert" className="mt-3 text-fault">
              <ul>
                {mapped.faults.slice(0, 8).map((each) => (
                  <li key={each.message}>{each.message}</li>
                ))}
              </ul>
            </div>
          )}
          <Button
            kind="main"
            className="mt-3"
            disabled={mapped.activities.length === 0}
            onClick={() => {
              void kept(calls.name, mapped.activities, missedIn(mapped.missed));
              setCalls(null);
            }}
          >
            Import {mapped.activities.length} {mapped.activities.length === 1 ? 'call' : 'calls'}
          </Button>
        </div>
      )}
    </Section>
  );
}

/** Calls that nobody took, named and not recorded. */
const missedIn = (count: number): string[] =>
  count === 0
    ? []
    : [
        count === 1
          ? '1 call was missed and is left out: nobody took it.'
          : `${count} calls were missed and are left out: nobody took them.`,
      ];

const addressOf = (guest: string): string => (/[^\s<>"']+@[^\s<>"']+/.exec(guest)?.[0] ?? guest).toLowerCase();
