import type { Heard } from '@half-penny/core/capture';
import { dayOf, type Zone } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { forgetDevice, pairingKey, readDevices } from '../../data/collect';
import { wordsOf } from '../../data/in-words';
import { useDevices } from '../../data/trail';
import { useAppSelector } from '../../state/store';
import { Button } from '../../parts/button';
import { Connect } from '../../parts/connect';
import { showShortDay } from '../../parts/days';
import { isSilent } from '../../parts/devices';
import { Section } from '../../parts/page';
import { showTime } from '../../parts/spans';

/** What notices things for this browser: each device with when it was heard, what it sees, and what it cannot. */
export function DevicesSection({ zone }: { zone: Zone }) {
  const devices = useDevices();
  const [fault, setFault] = useState<string>();
  // What is looked at is as it is now; without a server the last is shown.
  useEffect(() => void readDevices().catch(() => undefined), []);
  return (
    <Section title="Devices">
      {devices && devices.length > 0 ? (
        <ul aria-label="Devices" className="mb-4 max-w-4xl border-t border-rule">
          {devices.map((each) => (
            <Device
              key={each.device}
              device={each}
              zone={zone}
              onForget={() => void forgetDevice(each.device).catch((thrown: unknown) => setFault(wordsOf(thrown)))}
            />
          ))}
        </ul>
      ) : (
        <p className="mb-3 max-w-2xl text-soft">
          No device has been heard yet. Two can notice things for you: the agent sees which window is in front and which
          files are saved, the extension which page a browser shows.
        </p>
      )}
      {fault && (
        <p role="alert" className="mb-3 text-fault">
          {fault}
        </p>
      )}
      <Starting />
      <Pairing />
    </Section>
  );
}

function Device({ device, zone, onForget }: { device: Heard; zone: Zone; onForget: () => void }) {
  const now = useAppSelector((state) => state.clock.now);
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-rule py-2 md:grid-cols-[minmax(0,1.1fr)_minmax(0,2fr)_auto]">
      <div>
        <b>{device.name}</b>
        <span className={`block text-sm ${isSilent(device, now) ? 'text-attention' : 'text-soft'}`}>
          {standingOf(device, now, zone)}
        </span>
      </div>
      <div className="text-sm">
        {device.sees.length > 0 && <p>Sees {device.sees.join(', ')}.</p>}
        {device.lacks.map(({ what, how }) => (
          <p key={what} className="text-attention">
            {what}: not seen. <span className="text-soft">{how}</span>
          </p>
        ))}
      </div>
      <Button kind="quiet" aria-label={`Forget ${device.name}`} onClick={onForget}>
        Forget it
      </Button>
    </li>
  );
}

const JUST_NOW = 60_000;

function standingOf(device: Heard, now: number, zone: Zone): string {
  const at = momentOf(device.heard, now, zone);
  if (device.ended) return `Ended at ${at}`;
  if (isSilent(device, now)) return `Silent since ${at}`;
  const heard = now - device.heard < JUST_NOW ? 'Heard just now' : `Heard at ${at}`;
  return device.paused ? `${heard}, paused` : heard;
}

function momentOf(instant: number, now: number, zone: Zone): string {
  const day = dayOf(instant, zone);
  const time = showTime(instant, zone);
  return day === dayOf(now, zone) ? time : `${showShortDay(day)}, ${time}`;
}

const Starting = () => (
  <div className="mb-4 grid max-w-4xl gap-4 *:min-w-0 md:grid-cols-2">
    <div>
      <h3 className="mb-1 text-sm font-semibold">The agent</h3>
      <p className="mb-2 text-sm text-soft">
        A small program beside you. On this computer it finds its key by itself. install has it start at every login.
      </p>
      <pre
        className="max-w-full overflow-x-auto border border-rule bg-side px-3 py-2 font-mono text-sm"
        tabIndex={0}
        aria-label="How to start the agent"
      >
        {`npm run agent -- --watch ~/work
npm run agent -- install --watch ~/work
npm run agent -- --simulate   a made-up week`}
      </pre>
    </div>
    <div>
      <h3 className="mb-1 text-sm font-semibold">The browser extension</h3>
      <p className="text-sm text-soft">
        Tells the title and address of the page in front, never of private windows. Load the folder extension/dist under
        the browser’s extensions, open its options, and give it the pairing key below. A site can be left out from its
        button.
      </p>
    </div>
  </div>
);

function Pairing() {
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
    <>
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
    </>
  );
}
