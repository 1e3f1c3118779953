import { useState } from 'react';
import { useChanges, useSession } from '../../data/session';
import { beginSharing, relayAddress } from '../../data/sharing/share';
import { usualName } from '../../parts/device-name';
import { Button } from '../../parts/button';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';
import { Fault } from '@half-penny/core/model';

/** A relay that runs on this machine. */
export const USUAL_RELAY = 'http://127.0.0.1:4360';

/** Begins to share the workspace that is open. */
export function ShareForm() {
  const session = useSession();
  const changes = useChanges();
  const [relay, setRelay] = useState(USUAL_RELAY);
  const [name, setName] = useState(usualName);
  const [busy, setBusy] = useState(false);
  const { fault, faults, submit } = useSubmit(async () => {
    const address = relayAddress(relay);
    if (name.trim() === '') throw new Fault('empty', 'Say what this device is called.', 'name');
    setBusy(true);
    try {
      await beginSharing(session, changes, { relay: address, name: name.trim() });
    } finally {
      setBusy(false);
    }
  }, ['relay', 'name']);
  return (
    <form onSubmit={submit} className="max-w-2xl">
      <p className="mb-4 text-soft">
        Between them stands a relay: it passes on what is sealed, and learns nothing but sizes and times. Start one with{' '}
        <code className="font-mono text-sm">npm run relay</code>, on a machine that every device reaches. What is
        noticed in Sift stays on its own device.
      </p>
      <div className="flex flex-wrap items-start gap-3">
        <TextField
          label="Relay"
          value={relay}
          onChange={(event) => setRelay(event.target.value)}
          fault={faults.relay}
          hint="Its address. One that is elsewhere is named to the local server as HALF_PENNY_RELAY."
          className="min-w-64 flex-1"
          inputMode="url"
        />
        <TextField
          label="This device is called"
          value={name}
          maxLength={80}
          onChange={(event) => setName(event.target.value)}
          fault={faults.name}
          className="w-52"
        />
      </div>
      {fault && (
        <p role="alert" className="mt-3 text-fault">
          {fault}
        </p>
      )}
      <Button type="submit" kind="main" className="mt-4" disabled={busy}>
        Share this workspace
      </Button>
    </form>
  );
}
