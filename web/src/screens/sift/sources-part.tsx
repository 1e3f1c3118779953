import type { Activity } from '@half-penny/core/capture';
import { wordsOf } from '../../data/in-words';
import { addDays } from '@half-penny/core/time';
import {
  callFields,
  guessCallMapping,
  mapCalls,
  readMail,
  type CallField,
  type CallMapping,
} from '@half-penny/formats/activity';
import { readCalendar } from '@half-penny/formats/calendar';
import { readTable, type Table } from '@half-penny/formats/hours';
import { useState } from 'react';
import { pairingKey } from '../../data/collect';
import {
  deviceOfFile,
  forgetImpossible,
  keepActivities,
  saveSettings,
  useCaptureSettings,
  wipeTrail,
  useActivityCount,
} from '../../data/trail';
import { removeOldTrailBackups } from '../../data/trail-backup';
import { Button } from '../../parts/button';
import { ColumnFields } from '../../parts/column-fields';
import { Connect } from '../../parts/connect';
import { Dialog } from '../../parts/dialog';
import { SavedField, TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { FileButton } from '../../parts/file-button';
import { Loading, Section } from '../../parts/page';
import { captureWork } from '../../workers/capture';
import type { PartProps } from './sift';
import { TrailCopy } from './trail-copy';
import { CheckBox } from '../../parts/check';

/** Where activity comes from, what is never recorded, how it becomes stretches, and wiping it. */
export default function SourcesPart(props: PartProps) {
  const settings = useCaptureSettings();
  const count = useActivityCount();
  if (!settings || count === undefined) return <Loading />;
  const lines = (list: readonly string[]) => list.join('\n');
  const list = (text: string) =>
    text
      .split('\n')
      .map((each) => each.trim())
      .filter(Boolean);
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
      <Agent />
      <Files {...props} />
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
      </Section>
      <Section title="Never recorded">
        <div className="grid max-w-3xl gap-4 md:grid-cols-3">
          <SavedField
            label="Programs"
            lines={4}
            hint="One a line, by how they begin"
            value={lines(settings.neverPrograms)}
            save={(text) => saveSettings({ neverPrograms: list(text) })}
          />
          <SavedField
            label="Sites"
            lines={4}
            hint="With all that belongs to them"
            value={lines(settings.neverSites)}
            save={(text) => saveSettings({ neverSites: list(text) })}
          />
          <SavedField
            label="Folders"
            lines={4}
            hint="One a line, by how they begin"
            value={lines(settings.neverFolders)}
            save={(text) => saveSettings({ neverFolders: list(text) })}
          />
        </div>
      </Section>
      <Section title="How long it is kept">
        <div className="flex flex-wrap items-end gap-4">
          <SavedField
            label="Days"
            inputMode="numeric"
            className="w-32"
            value={String(settings.keepDays)}
            save={(text) => saveSettings({ keepDays: minutes(text) })}
            hint="0 for ever"
          />
          <Wipe />
        </div>
      </Section>
    </>
  );
}

function Agent() {
  const [key, setKey] = useState<string>();
  const [fault, setFault] = useState<string>();
  const show = (renew: boolean) =>
    pairingKey(renew).then(
      (found) => {
        setKey(found);
        setFault(undefined);
      },
      (thrown: unknown) => setFault(wordsOf(thrown)),
    );
  return (
    <Section title="The agent">
      <p className="mb-2 max-w-2xl text-soft">
        A small program that runs beside you and notices which window is in front and which files are saved. It hands on
        what it noticed to this browser only. On this computer it finds its key by itself:
      </p>
      <pre
        className="mb-3 max-w-full overflow-x-auto border border-rule bg-side px-3 py-2 font-mono text-sm"
        tabIndex={0}
        aria-label="How to start the agent"
      >
        {`npm run agent -- --watch ~/work\nnpm run agent -- --simulate        a made-up week of Saltmere Lighting`}
      </pre>
      <div className="flex flex-wrap items-center gap-3">
        {key ? (
          <code className="font-mono [overflow-wrap:anywhere]">{key}</code>
        ) : (
          <Button onClick={() => void show(false)}>Show the pairing key</Button>
        )}
        {key && <Button onClick={() => void show(true)}>Make a new key</Button>}
        {fault && (
          <span role="alert" className="text-fault">
            {fault}
          </span>
        )}
      </div>
      <div className="mt-3">
        <Connect onConnected={() => setFault(undefined)} />
      </div>
    </Section>
  );
}

const MOST_FAULTS = 8;

const callNames: Record<CallField, string> = {
  day: 'Day',
  time: 'Time',
  length: 'Length',
  number: 'Number',
  name: 'Name',
};

function Files({ pricer, member, today }: PartProps) {
  const [told, setTold] = useState<string>();
  const [faults, setFaults] = useState<string[]>([]);
  const [own, setOwn] = useState(pricer.book.workspace.email);
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
                  people: event.guests.map(addressOf).filter((each) => each !== own.toLowerCase()),
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
        const { activities, faults: wrong } = await readMail(await file.text(), own.split(/[,\s]+/));
        await kept(
          file.name,
          activities,
          wrong.map((each) => each.message),
        );
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
        of any carrier), and activity as JSON Lines (.jsonl). Importing a file again changes nothing.
      </p>
      <div className="flex flex-wrap items-end gap-4">
        <TextField
          label="Your own addresses"
          hint="They are in every e-mail and tell nothing."
          value={own}
          onChange={(event) => setOwn(event.target.value)}
        />
        <FileButton
          kind="main"
          label="Import a file"
          accept=".ics,.mbox,.eml,.csv,.tsv,.xlsx,.jsonl"
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
              void kept(calls.name, mapped.activities, []);
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

const addressOf = (guest: string): string => (/[^\s<>"']+@[^\s<>"']+/.exec(guest)?.[0] ?? guest).toLowerCase();

function Wipe() {
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(false);
  return (
    <>
      <Button kind="fault" onClick={() => setOpen(true)}>
        Wipe the trail…
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title="Wipe the trail"
        about="All activity, how it was placed, and what was learned from it goes for good, with its sealed copy; entries that were posted stay. This cannot be undone."
      >
        <label className="mb-4 flex items-center gap-2">
          <CheckBox checked={all} onChange={setAll} />
          The rules and these settings too
        </label>
        <Button
          kind="fault"
          onClick={() => {
            void wipeTrail(all).then(removeOldTrailBackups);
            setOpen(false);
          }}
        >
          Wipe it
        </Button>
      </Dialog>
    </>
  );
}
