import type { KeyHolder } from '@half-penny/core/model';
import { useState } from 'react';
import type { Mailbox, Travelled } from '../../data/database';
import { closeMailbox, lookNow, openMailbox, sendAllAgain, useMailbox } from '../../data/mailbox';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { showMoment } from '../../parts/days';
import { TextField } from '../../parts/field';
import { Loading, Section } from '../../parts/page';
import { useSubmit } from '../../parts/use-submit';

interface ByRelayProps {
  own: KeyHolder;
  zone: string;
  /** In a member's own workspace. */
  forMember?: boolean;
}

/** Sealed files that go and come without a hand: by the mailboxes of a relay. */
export function ByRelay({ own, zone, forMember = false }: ByRelayProps) {
  const mailbox = useMailbox(own);
  return (
    <Section title="By a relay">
      {mailbox === undefined ? (
        <Loading />
      ) : mailbox ? (
        <Going {...{ mailbox, zone, forMember }} />
      ) : (
        <Begin {...{ own, forMember }} />
      )}
    </Section>
  );
}

function Begin({ own, forMember }: Pick<ByRelayProps, 'own' | 'forMember'>) {
  const [relay, setRelay] = useState('');
  const [busy, setBusy] = useState(false);
  const { fault, faults, submit } = useSubmit(async () => {
    setBusy(true);
    try {
      await openMailbox(own.keys!, relay);
    } finally {
      setBusy(false);
    }
  }, ['relay']);
  return (
    <form onSubmit={submit} className="max-w-2xl">
      <p className="mb-4 text-soft">
        {forMember
          ? 'Where your studio uses a relay, what you hand in goes there by itself, and what the studio sends comes here. Ask them for its address.'
          : 'Sealed files need no hand where a relay carries them: job sheets and answers go by themselves, replies and timesheets are taken as they come. The relay cannot read them.'}
      </p>
      <div className="flex flex-wrap items-start gap-3">
        <TextField
          label="Relay"
          value={relay}
          placeholder="https://relay.your-studio.example"
          onChange={(event) => setRelay(event.target.value)}
          fault={faults.relay}
          hint={
            forMember
              ? undefined
              : 'Started with npm run relay. Invitations carry its address; whoever was met before enters it at theirs.'
          }
          className="min-w-64 flex-1"
          inputMode="url"
        />
      </div>
      {fault && (
        <p role="alert" className="mt-3 text-fault">
          {fault}
        </p>
      )}
      <Button type="submit" className="mt-3" disabled={busy}>
        Use this relay
      </Button>
    </form>
  );
}

function Going({ mailbox, zone, forMember }: { mailbox: Mailbox } & Pick<ByRelayProps, 'zone' | 'forMember'>) {
  const { standing } = mailbox;
  const how = {
    together: 'Looked into',
    'off line': 'Off line since',
    stopped: 'Held up since',
  }[standing.kind];
  const when = showMoment(standing.kind === 'together' ? standing.at : standing.since, zone);
  return (
    <>
      <p role="status" className={standing.kind === 'stopped' ? 'text-fault' : ''}>
        <span className="font-semibold">
          {how} {when}.
        </span>{' '}
        {standing.kind === 'stopped' && standing.why}
        {standing.kind === 'off line' && 'What waits goes when the relay is reached.'}
      </p>
      <p className="mt-1 max-w-2xl text-sm text-soft">
        {forMember
          ? 'What you hand in goes to the studio by itself.'
          : 'Job sheets go a minute after the last change, answers as soon as something is decided.'}
        <span className="block">
          Relay: <span className="font-mono break-all">{mailbox.relay}</span>
        </span>
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button onClick={() => void lookNow(mailbox)}>Look now</Button>
        <Button onClick={() => void sendAllAgain(mailbox)}>Send all again</Button>
        <Button kind="quiet" onClick={() => void closeMailbox(mailbox)}>
          Files by hand alone
        </Button>
      </div>
      <ul aria-label="Went and came" className="mt-4 max-w-3xl border-t border-rule">
        {mailbox.lately.length === 0 && <li className="py-2 text-soft">Nothing went or came yet.</li>}
        {mailbox.lately.map((each, index) => (
          <Line key={`${each.at} ${index}`} {...{ each, zone }} />
        ))}
      </ul>
    </>
  );
}

function Line({ each: { at, said, fault, file }, zone }: { each: Travelled; zone: string }) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-2">
      <span className="w-40 shrink-0 text-sm text-soft">{showMoment(at, zone)}</span>
      <span className={`min-w-64 flex-1 ${fault ? 'text-fault' : ''}`}>{said}</span>
      {file && (
        <Button kind="quiet" onClick={() => save(file.blob, file.name)}>
          Save what was refused
        </Button>
      )}
    </li>
  );
}
