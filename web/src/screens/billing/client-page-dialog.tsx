import type { Pricer } from '@half-penny/core/billing';
import { usualPage } from '@half-penny/core/client-page';
import { peopleShown, type ClientPageShows, type FrozenInvoice } from '@half-penny/core/model';
import { useState } from 'react';
import { Link } from 'react-router';
import { clientPageOf, showClientPage, type PageOf } from '../../data/client-page';
import { usePaying } from '../../data/online';
import { useChanges, useSession } from '../../data/session';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { CheckBox } from '../../parts/check';
import { Connect } from '../../parts/connect';
import { Dialog } from '../../parts/dialog';
import { SelectField } from '../../parts/select';
import { useSubmit } from '../../parts/use-submit';

interface ClientPageProps {
  pricer: Pricer;
  frozen: FrozenInvoice;
  of: PageOf;
  clientId: string;
  /** Something is still to be paid on it. */
  owes?: boolean;
  onClose: () => void;
}

const people: Record<(typeof peopleShown)[number], string> = {
  names: 'By name',
  services: 'By what the work is called',
  nobody: 'Not at all',
};

/** The page of a document that a client opens in a browser: what it shows, as a file, and to be tried on this machine. */
export function ClientPageDialog({ pricer, frozen, of, clientId, owes = false, onClose }: ClientPageProps) {
  const session = useSession();
  const { run } = useChanges();
  const kept = pricer.client.get(clientId)?.page ?? usualPage;
  const [shows, setShows] = useState<ClientPageShows>(kept);
  const [task, setTask] = useState<'file' | 'show'>('file');
  const [busy, setBusy] = useState(false);
  const [address, setAddress] = useState('');
  const { paying, read } = usePaying();
  const { fault, submit } = useSubmit(async () => {
    setBusy(true);
    try {
      if (JSON.stringify(shows) !== JSON.stringify(kept)) await run('client.edit', { id: clientId, page: shows });
      if (task === 'show') setAddress(await showClientPage(session, pricer, of, shows));
      else {
        const html = await clientPageOf(session, pricer, of, shows);
        save(new Blob([html], { type: 'text/html' }), `${frozen.number.replace(/[^\w.-]+/g, '-')}.html`);
      }
    } finally {
      setBusy(false);
    }
  });
  const box = (name: 'workings' | 'rest', label: string) => (
    <label className="flex items-center gap-2">
      <CheckBox checked={shows[name]} onChange={(on) => setShows((now) => ({ ...now, [name]: on }))} />
      {label}
    </label>
  );
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Page of ${frozen.number}`}
      about={
        frozen.quote
          ? 'One file that the client opens in a browser. It does its sums again, and is accepted or declined there: what is pressed comes back as a small signed file.'
          : 'One file that the client opens in a browser. It does its sums again and shows what each line is made of.'
      }
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        {!frozen.quote && (
          <>
            {box('workings', 'What each line is made of, day by day')}
            <SelectField
              label="Who worked"
              value={shows.people}
              options={peopleShown.map((each) => [each, people[each]] as const)}
              onPick={(picked) => setShows((now) => ({ ...now, people: picked as ClientPageShows['people'] }))}
            />
            {box('rest', 'What was agreed, and what is still to come')}
            <p className="text-sm text-soft">
              Kept for this client.{' '}
              {!owes ? (
                'Nothing is owed on it, so it has no button to pay with.'
              ) : paying?.simulated || pricer.book.workspace.payAddress ? (
                'It has a button to pay with.'
              ) : (
                <>
                  It has no button to pay with:{' '}
                  <Link to="/setup/invoicing" className="text-time underline underline-offset-2">
                    set up paying online
                  </Link>
                  .
                </>
              )}
            </p>
          </>
        )}
        <Connect onConnected={read} />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <div className="flex flex-wrap items-center justify-end gap-2 border-t border-rule pt-3">
          <span role="status" className="mr-auto min-w-0 text-soft">
            {busy ? (
              'Making the page…'
            ) : address ? (
              <a href={address} target="_blank" rel="noreferrer" className="text-time underline underline-offset-2">
                Open it as the client would
              </a>
            ) : (
              ''
            )}
          </span>
          <Button type="submit" disabled={busy} onClick={() => setTask('show')}>
            Try it on this machine
          </Button>
          <Button type="submit" kind="main" disabled={busy} onClick={() => setTask('file')}>
            Save the file
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
