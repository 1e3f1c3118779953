import { Fault } from '@half-penny/core/model';
import { secretOfWords, WordsFault } from '@half-penny/formats/sealed-log';
import { useEffect, useRef, useState } from 'react';
import type { WorkspaceEntry } from '../../data/database';
import { wordsOf } from '../../data/in-words';
import { answerWords, type Arriving } from '../../data/sharing/meet';
import { relayAddress } from '../../data/sharing/share';
import { AbortError, type CancellableTask } from '../../workers/tasks';
import { Button } from '../../parts/button';
import { usualName } from '../../parts/device-name';
import { TextField } from '../../parts/field';
import { meetingIn } from '../../parts/meeting-link';
import { ShortCode } from '../../parts/short-code';
import { useSubmit } from '../../parts/use-submit';

interface MeetHereProps {
  /** A link or words that were scanned. */
  given?: string;
  onStarted: (entry: WorkspaceEntry) => void;
}

/** For a device that comes to a workspace: the words are typed, the codes compared, and the workspace comes. */
export default function MeetHere({ given = '', onStarted }: MeetHereProps) {
  const [arriving, setArriving] = useState<Arriving | null>(null);
  const [failed, setFailed] = useState('');
  const back = (why: string) => {
    setArriving(null);
    setFailed(why);
  };
  if (arriving) return <Compare {...{ arriving, onStarted }} onFailed={back} />;
  return (
    <>
      {failed && (
        <p role="alert" className="mb-3 text-fault">
          {failed}
        </p>
      )}
      <WordsForm given={given} onAnswered={setArriving} />
    </>
  );
}

function WordsForm({ given, onAnswered }: { given: string; onAnswered: (arriving: Arriving) => void }) {
  const [first] = useState(() => meetingIn(given));
  const [words, setWords] = useState(first.words);
  const [relay, setRelay] = useState(first.relay || 'http://127.0.0.1:4360');
  const [name, setName] = useState(usualName);
  const [busy, setBusy] = useState<AbortController | null>(null);
  useEffect(() => () => busy?.abort(new Error('Left.')), [busy]);
  const { fault, faults, submit } = useSubmit(async () => {
    const secret = secretIn(words);
    const address = relayAddress(relay);
    if (name.trim() === '') throw new Fault('empty', 'Say what this device is called.', 'name');
    const stopped = new AbortController();
    setBusy(stopped);
    try {
      onAnswered(await answerWords({ secret, relay: address, name: name.trim() }, stopped.signal));
    } catch (thrown) {
      if (!stopped.signal.aborted) throw thrown;
    } finally {
      setBusy(null);
    }
  }, ['words', 'relay', 'name']);
  const type = (text: string) => {
    const said = meetingIn(text);
    setWords(said.relay ? said.words : text);
    if (said.relay) setRelay(said.relay);
  };
  return (
    <form onSubmit={submit} className="flex max-w-2xl flex-col gap-4">
      <p className="text-soft">
        On the device that has the workspace, open Setup → Devices and press “Meet a device”. It shows twelve words.
      </p>
      <TextField
        label="The twelve words"
        lines={2}
        value={words}
        fault={faults.words}
        spellCheck={false}
        autoCapitalize="none"
        onChange={(event) => type(event.target.value)}
      />
      <div className="flex flex-wrap gap-3">
        <TextField
          label="Relay"
          value={relay}
          fault={faults.relay}
          inputMode="url"
          className="min-w-64 flex-1"
          onChange={(event) => setRelay(event.target.value)}
        />
        <TextField
          label="This device is called"
          value={name}
          fault={faults.name}
          maxLength={80}
          className="w-52"
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      {fault && (
        <p role="alert" className="text-fault">
          {fault}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" kind="main" disabled={busy !== null}>
          Answer
        </Button>
        {busy && (
          <>
            <span role="status" className="text-soft">
              Waiting for the other device…
            </span>
            <Button onClick={() => busy.abort(new Error('Stopped.'))}>Stop</Button>
          </>
        )}
      </div>
    </form>
  );
}

/** @throws Fault at the field */
function secretIn(words: string): string {
  try {
    return secretOfWords(words);
  } catch (thrown) {
    if (thrown instanceof WordsFault) throw new Fault('invalid', thrown.message, 'words');
    throw thrown;
  }
}

interface CompareProps {
  arriving: Arriving;
  onStarted: (entry: WorkspaceEntry) => void;
  onFailed: (why: string) => void;
}

/** Both devices know of each other: the codes are compared, and it is let in over there. */
function Compare({ arriving, onStarted, onFailed }: CompareProps) {
  const [share, setShare] = useState<number | null>(null);
  const task = useRef<CancellableTask<WorkspaceEntry> | null>(null);
  useEffect(() => {
    if (task.current) return;
    task.current = arriving.arrive(setShare);
    task.current.result.then(onStarted, (thrown: unknown) =>
      onFailed(thrown instanceof AbortError || (thrown as Error).message === 'Stopped.' ? '' : wordsOf(thrown)),
    );
  }, [arriving, onStarted, onFailed]);
  return (
    <div className="max-w-md">
      <p className="mb-3">
        “{arriving.host.name}” has answered. Does it show the same figures? Then press “let it in” over there. Where
        they differ, stop: somebody is in between.
      </p>
      <ShortCode studio={arriving.host.keys} member={arriving.own.keys} />
      <div className="mt-4 flex items-center gap-3">
        {share === null ? (
          <span role="status" className="text-soft">
            Waiting to be let in…
          </span>
        ) : (
          <progress className="h-2 flex-1 accent-time" value={share} max={1} aria-label="Reading the workspace" />
        )}
        <Button className="ml-auto" onClick={() => task.current?.stop()}>
          Stop
        </Button>
      </div>
    </div>
  );
}
