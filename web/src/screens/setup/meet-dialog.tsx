import { publicKeysOf } from '@half-penny/formats/sealed-files';
import { meetingSecret, wordsOfSecret, type DeviceTold } from '@half-penny/formats/sealed-log';
import { useEffect, useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { useChanges, useSession } from '../../data/session';
import { useSharedBook } from '../../data/sharing/book';
import { letDeviceIn, waitForDevice } from '../../data/sharing/meet';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { DrawnCode } from '../../parts/drawn-code';
import { meetingLink } from '../../parts/meeting-link';
import { ShortCode } from '../../parts/short-code';

type Step =
  | { kind: 'shown' }
  | { kind: 'compare'; device: DeviceTold }
  | { kind: 'letting in'; device: DeviceTold }
  | { kind: 'done'; device: DeviceTold }
  | { kind: 'failed'; why: string };

/** Meets another device: it is shown twelve words, both compare a short code, and it gets the workspace. */
export function MeetDialog({ relay, onClose }: { relay: string; onClose: () => void }) {
  const session = useSession();
  const changes = useChanges();
  const shared = useSharedBook();
  const [secret, setSecret] = useState(meetingSecret);
  const [step, setStep] = useState<Step>({ kind: 'shown' });
  useEffect(() => {
    const left = new AbortController();
    const stopped = () => left.signal.aborted;
    waitForDevice(session, secret, left.signal).then(
      (device) => stopped() || setStep({ kind: 'compare', device }),
      (thrown: unknown) => stopped() || setStep({ kind: 'failed', why: wordsOf(thrown) }),
    );
    return () => left.abort(new Error('Closed.'));
  }, [session, secret]);
  const again = () => {
    setStep({ kind: 'shown' });
    setSecret(meetingSecret());
  };
  const letIn = (device: DeviceTold) => {
    setStep({ kind: 'letting in', device });
    letDeviceIn(session, changes, device).then(
      () => setStep({ kind: 'done', device }),
      (thrown: unknown) => setStep({ kind: 'failed', why: wordsOf(thrown) }),
    );
  };
  return (
    <Dialog title="Meet a device" open wide onClose={onClose}>
      {step.kind === 'shown' && <Shown secret={secret} relay={relay} />}
      {step.kind === 'compare' && shared && (
        <>
          <p className="mb-3">
            “{step.device.name}” has answered. Do both show the same figures? Where they differ, somebody is in between.
          </p>
          <ShortCode studio={publicKeysOf(shared.keys)} member={step.device.keys} />
          <div className="mt-4 flex flex-wrap gap-2">
            <Button kind="main" onClick={() => letIn(step.device)}>
              The same: let it in
            </Button>
            <Button onClick={again}>They differ</Button>
          </div>
        </>
      )}
      {step.kind === 'letting in' && (
        <>
          <p role="status" className="mb-2">
            “{step.device.name}” is let in; the workspace is sealed and sent…
          </p>
          <progress className="h-2 w-full accent-time" aria-label="Sending the workspace" />
        </>
      )}
      {step.kind === 'done' && (
        <>
          <p role="status" className="mb-4">
            “{step.device.name}” is let in. It has the workspace as soon as it has read it.
          </p>
          <Button kind="main" onClick={onClose}>
            Done
          </Button>
        </>
      )}
      {step.kind === 'failed' && (
        <>
          <p role="alert" className="mb-4 text-fault">
            {step.why}
          </p>
          <Button kind="main" onClick={again}>
            Begin again
          </Button>
        </>
      )}
    </Dialog>
  );
}

/** The words, and the same as a code. */
function Shown({ secret, relay }: { secret: string; relay: string }) {
  const words = wordsOfSecret(secret).split(' ');
  return (
    <div className="grid gap-6 sm:grid-cols-[200px_minmax(0,1fr)]">
      <DrawnCode text={meetingLink(relay, words, location.origin)} label="The words as a QR code" />
      <div>
        <p className="mb-3">
          Open Half Penny on the other device, press <b>Meet it</b> under “Your workspace is on another device?” (or
          “Start your own”), and type these words. Show them to nobody else; they count until this window is closed.
        </p>
        <ol className="grid grid-cols-2 border-t border-ink font-mono sm:grid-cols-3" aria-label="The twelve words">
          {words.map((word, index) => (
            <li key={`${index} ${word}`} className="flex gap-2 border-b border-rule px-2 py-1">
              <span className="w-5 text-right text-soft">{index + 1}</span>
              {word}
            </li>
          ))}
        </ol>
        <p className="mt-3 text-sm text-soft">
          Relay: <span className="font-mono">{relay}</span>
        </p>
        <p role="status" className="mt-1 text-sm text-soft">
          Waiting for the other device…
        </p>
      </div>
    </div>
  );
}
