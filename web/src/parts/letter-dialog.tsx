import type { Pricer } from '@half-penny/core/billing';
import { lackingFor } from '@half-penny/core/e-invoice';
import type { Enclosure, FrozenInvoice, Letter } from '@half-penny/core/model';
import { useState } from 'react';
import { Link } from 'react-router';
import { emlOf, filesOf, presentOf, sendLetter, type NewLetter } from '../data/letters';
import { usePost } from '../data/post';
import { newId } from '../data/registry';
import { useChanges, useSession } from '../data/session';
import { save } from '../data/workspaces';
import { Button } from './button';
import { CheckBox } from './check';
import { Dialog } from './dialog';
import { TextField } from './field';
import { useSubmit } from './use-submit';
import { noticed } from '../state/notices';
import { useAppDispatch } from '../state/store';

const enclosureNames: Record<Enclosure, string> = {
  pdf: 'PDF',
  page: 'Page for the browser',
  'factur-x': 'E-invoice, Factur-X',
  peppol: 'E-invoice, Peppol',
  xrechnung: 'E-invoice, XRechnung',
  receipts: 'Receipts, each by itself',
  xlsx: 'Spreadsheet (XLSX)',
};

interface LetterDialogProps {
  pricer: Pricer;
  /** As it is written, or as it waits in the outbox. */
  letter: NewLetter | Letter;
  /** What goes with it, where that can be chosen. */
  frozen: FrozenInvoice | null;
  onClose: () => void;
}

/** A letter to be read before it goes: sent, put in the outbox, saved as a file, or handed to the mail program. */
export function LetterDialog({ pricer, letter, frozen, onClose }: LetterDialogProps) {
  const session = useSession();
  const { run } = useChanges();
  const dispatch = useAppDispatch();
  const { kept, fault: unreachable } = usePost();
  const [written, setWritten] = useState({
    recipients: letter.recipients,
    copies: letter.copies ?? '',
    subject: letter.subject,
    body: letter.body,
  });
  const [enclosed, setEnclosed] = useState<readonly Enclosure[]>(letter.enclosed ?? ['pdf']);
  const [id] = useState(() => letter.id ?? newId());
  const [busy, setBusy] = useState('');
  const waits = 'standing' in letter;
  /** Written down before anything is done with it, so that nothing of it is lost. */
  const keep = async (): Promise<Letter> => {
    const fields = { ...written, enclosed: [...enclosed] };
    const there = await session.reader.get('letters', id);
    if (there) await run('letter.edit', { id, ...fields });
    else await run('letter.write', { letters: [{ ...letter, ...fields, id }] });
    return (await session.reader.get('letters', id))!;
  };
  const during = async (what: string, task: (kept: Letter) => Promise<void>) => {
    const ready = await keep();
    setBusy(what);
    try {
      await task(ready);
      onClose();
    } finally {
      setBusy('');
    }
  };
  const send = () =>
    during('Sending', async (ready) => {
      const { outcome, reason } = await sendLetter(session, pricer, ready);
      const text =
        outcome === 'sent'
          ? `Sent to ${ready.recipients}.${reason && ` ${reason}`}`
          : `It waits in the outbox: ${reason}`;
      dispatch(noticed({ text, fault: outcome !== 'sent', undo: null }));
    });
  const asFile = () =>
    during('Making the file', async (ready) => {
      const { workspace } = pricer.book;
      const from = { name: workspace.name, address: kept?.settings?.from ?? workspace.email };
      const eml = await emlOf(from, ready, await filesOf(session, pricer, ready));
      save(eml, `${what.replace(/[^\w.-]+/g, '-')}.eml`);
      await run('letter.told', { id, way: 'file', outcome: 'sent' });
    });
  const byProgram = () =>
    during('Making the files', async (ready) => {
      for (const { name, blob } of await filesOf(session, pricer, ready)) save(blob, name);
      const { recipients: to, copies: cc, subject, body } = ready;
      const query = new URLSearchParams({ ...(cc && { cc }), subject, body }).toString().replaceAll('+', '%20');
      location.href = `mailto:${encodeURIComponent(to).replaceAll('%40', '@').replaceAll('%2C', ',')}?${query}`;
      await run('letter.told', { id, way: 'mail program', outcome: 'sent' });
    });
  const [task, setTask] = useState<'send' | 'keep' | 'file' | 'program'>('send');
  const { fault, faults, submit } = useSubmit(async () => {
    const tasks = { send, file: asFile, program: byProgram, keep: () => keep().then(onClose) };
    await tasks[task]();
  }, ['recipients', 'copies', 'subject', 'body']);
  const field = (name: keyof typeof written, label: string, lines?: number) => (
    <TextField
      label={label}
      {...(lines ? { lines } : {})}
      value={written[name]}
      fault={faults[name]}
      onChange={(event) => setWritten((now) => ({ ...now, [name]: event.target.value }))}
    />
  );
  const kinds = letter.report
    ? forReports
    : frozen && letter.clientId !== null
      ? enclosuresOf(pricer, letter.clientId, frozen)
      : [];
  const what =
    frozen?.number ?? letter.report?.name ?? (letter.clientId === null ? 'a reminder' : 'the statement of account');
  const ready = kept?.settings != null;
  return (
    <Dialog open wide onClose={onClose} title={waits ? 'Letter' : `Send ${what}`}>
      <form onSubmit={submit} className="flex flex-col gap-3">
        {field('recipients', 'To')}
        {field('copies', 'Copy to')}
        {field('subject', 'Subject')}
        {field('body', 'Letter text', 8)}
        {kinds.length > 0 && (
          <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
            <legend className="mb-1 text-xs font-semibold text-soft">With it</legend>
            {kinds.map((kind) => (
              <label key={kind} className="flex items-center gap-2">
                <CheckBox
                  checked={enclosed.includes(kind)}
                  onChange={(on) => setEnclosed((now) => (on ? [...now, kind] : now.filter((each) => each !== kind)))}
                />
                {enclosureNames[kind]}
              </label>
            ))}
          </fieldset>
        )}
        <NotReady fault={unreachable} ready={ready} known={kept !== undefined} />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <div className="flex flex-wrap items-center justify-end gap-2 border-t border-rule pt-3">
          <span role="status" className="mr-auto text-soft">
            {busy && `${busy}…`}
          </span>
          <Button type="submit" kind="quiet" onClick={() => setTask('program')}>
            Open in the mail program
          </Button>
          <Button type="submit" kind="quiet" onClick={() => setTask('file')}>
            Save as a mail file
          </Button>
          <Button type="submit" onClick={() => setTask('keep')}>
            {waits ? 'Leave it in the outbox' : 'Put in the outbox'}
          </Button>
          <Button type="submit" kind="main" disabled={!ready || busy !== ''} onClick={() => setTask('send')}>
            Send now
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function NotReady({ fault, ready, known }: { fault: string | undefined; ready: boolean; known: boolean }) {
  if (ready || (!known && !fault)) return null;
  return (
    <p className="border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
      {fault ?? 'No mail server is set up yet.'}{' '}
      <Link to="/setup/post" className="underline underline-offset-2">
        Set up sending
      </Link>
    </p>
  );
}

const forReports: readonly Enclosure[] = ['pdf', 'xlsx'];

/** What can go with an invoice: electronic forms only where nothing is lacking for them. */
function enclosuresOf(pricer: Pricer, clientId: string, frozen: FrozenInvoice): Enclosure[] {
  if (frozen.quote) return ['pdf', 'page'];
  const present = presentOf(pricer, clientId);
  const electronic = (['factur-x', 'peppol', 'xrechnung'] as const).filter(
    (kind) => lackingFor(kind, frozen, present).length === 0,
  );
  const receipts: Enclosure[] = frozen.lines.some((line) => line.receiptIds.length > 0) ? ['receipts'] : [];
  return ['pdf', 'page', ...receipts, ...electronic];
}
