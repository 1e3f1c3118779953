import type { Pricer } from '@half-penny/core/billing';
import type { FrozenInvoice, Letter } from '@half-penny/core/model';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsOf } from '../../data/in-words';
import { sendLetter } from '../../data/letters';
import { usePost } from '../../data/post';
import { useAll } from '../../data/read';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showMoment } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { noticed } from '../../state/notices';
import { useAppDispatch } from '../../state/store';
import { LetterDialog } from '../../parts/letter-dialog';

/** Letters that wait, that went, and that did not. */
export function Outbox({ pricer }: { pricer: Pricer }) {
  const letters = useAll('letters');
  const { kept } = usePost();
  const [opened, setOpened] = useState<{ letter: Letter; frozen: FrozenInvoice | null } | null>(null);
  const { reader } = useSession();
  const { attempt } = useChanges();
  const { sending, sendAll, stop } = useSending(pricer);
  if (!letters) return <Loading />;
  const newest = [...letters].sort((a, b) => b.createdAt - a.createdAt);
  const waiting = newest.filter((row) => row.standing !== 'sent');
  const ready = waiting.filter((row) => row.standing !== 'handed over' && row.recipients.trim() !== '');
  const sent = newest.filter((row) => row.standing === 'sent');
  const open = async (letter: Letter) => {
    const { invoiceId, quoteId, version } = letter;
    const quote = quoteId ? await reader.get('quotes', quoteId) : undefined;
    const invoice = invoiceId ? await reader.get('invoices', invoiceId) : undefined;
    setOpened({ letter, frozen: quote?.versions[(version ?? 1) - 1]?.frozen ?? invoice?.frozen ?? null });
  };
  const arrivedAnyhow = (row: Letter) =>
    void attempt('letter.told', { id: row.id, way: 'post', outcome: 'sent', reason: 'Seen to have arrived' });
  return (
    <>
      <Section
        title={waiting.length > 0 ? `Waiting ${waiting.length}` : 'Waiting'}
        actions={
          <>
            {kept?.simulated && (
              <a
                href="/inbox"
                target="_blank"
                rel="noreferrer"
                className="self-center text-time underline underline-offset-2"
              >
                See what arrived
              </a>
            )}
            {ready.length > 0 && (
              <Button
                kind="main"
                disabled={kept?.settings == null || sending !== null}
                onClick={() => void sendAll(ready)}
              >
                Send {ready.length === 1 ? 'it' : `all ${ready.length}`}
              </Button>
            )}
          </>
        }
      >
        {kept && kept.settings === null && waiting.length > 0 && (
          <p className="mb-3 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
            No mail server is set up yet.{' '}
            <Link to="/setup/post" className="underline underline-offset-2">
              Set up sending
            </Link>
          </p>
        )}
        <Ledger
          label="Letters that wait"
          rows={waiting}
          rowId={(row) => row.id}
          rowName={(row) => row.subject}
          columns={[
            ...columnsOf(pricer),
            {
              key: 'what',
              head: 'What to do',
              quietHead: true,
              width: '210px',
              align: 'end',
              cell: (row) =>
                row.standing === 'handed over' ? (
                  <span className="flex flex-wrap justify-end gap-x-2">
                    <Button kind="quiet" onClick={() => arrivedAnyhow(row)}>
                      It arrived
                    </Button>
                    <Button kind="quiet" onClick={() => void sendAll([row], true)}>
                      It did not: send again
                    </Button>
                  </span>
                ) : (
                  <span className="flex flex-wrap justify-end gap-x-2">
                    <Button kind="quiet" onClick={() => void open(row)}>
                      Open
                    </Button>
                    <Button kind="quiet" onClick={() => void attempt('letter.discard', { ids: [row.id] })}>
                      Discard
                    </Button>
                  </span>
                ),
            },
          ]}
          onOpen={(row) => void open(row)}
          empty="Nothing waits to be sent. Invoices and quotes are sent from their own pages."
        />
      </Section>
      {sent.length > 0 && (
        <Section title="Sent">
          <Ledger
            label="Letters that were sent"
            rows={sent}
            rowId={(row) => row.id}
            rowName={(row) => row.subject}
            columns={columnsOf(pricer)}
            empty=""
          />
        </Section>
      )}
      {sending && <Progress title={sending.title} share={sending.share} onStop={stop} />}
      {opened && <LetterDialog pricer={pricer} {...opened} onClose={() => setOpened(null)} />}
    </>
  );
}

/** Sends letters one after the other; one that fails keeps none of the others. */
function useSending(pricer: Pricer) {
  const session = useSession();
  const dispatch = useAppDispatch();
  const [sending, setSending] = useState<{ title: string; share: number; stopped: { now: boolean } } | null>(null);
  const sendAll = async (letters: readonly Letter[], again = false) => {
    const stopped = { now: false };
    const failed: string[] = [];
    let sent = 0;
    for (const [index, letter] of letters.entries()) {
      if (stopped.now) break;
      setSending({ title: `Sending “${letter.subject}”`, share: index / letters.length, stopped });
      try {
        const { outcome, reason } = await sendLetter(session, pricer, letter, again);
        if (outcome === 'sent') sent++;
        else failed.push(reason);
      } catch (thrown) {
        failed.push(wordsOf(thrown));
      }
    }
    setSending(null);
    const went = sent === 1 ? '1 letter sent' : `${sent} letters sent`;
    const text = failed.length > 0 ? `${went}, ${failed.length} not: ${failed[0]}` : `${went}.`;
    dispatch(noticed({ text, fault: failed.length > 0, undo: null }));
  };
  return { sending, sendAll, stop: () => sending && (sending.stopped.now = true) };
}

const looks: Record<Letter['standing'], string> = {
  waiting: 'text-soft italic',
  'handed over': 'rounded-sm bg-attention-ground px-1.5 py-0.5 font-semibold text-attention',
  sent: 'text-ink',
  failed: 'rounded-sm bg-attention-ground px-1.5 py-0.5 font-semibold text-attention',
};
const says: Record<Letter['standing'], string> = {
  waiting: 'waits',
  'handed over': 'no answer',
  sent: 'sent',
  failed: 'not sent',
};
const ways = { post: '', file: ' as a file', 'mail program': ' by the mail program' } as const;

function columnsOf(pricer: Pricer): Column<Letter>[] {
  const { zone } = pricer.book.workspace;
  return [
    {
      key: 'subject',
      head: 'Letter',
      ownLine: true,
      width: 'minmax(0,3fr)',
      cell: (row) => (
        <>
          {row.invoiceId || row.quoteId ? (
            <Link
              to={row.quoteId ? `/billing/quote/${row.quoteId}` : `/billing/invoice/${row.invoiceId}`}
              className="written clamp-2 font-semibold hover:underline"
              tabIndex={-1}
            >
              {row.subject}
            </Link>
          ) : (
            <span className="written clamp-2 font-semibold">{row.subject}</span>
          )}
          <span className="block text-xs text-soft">
            {row.enclosed.length > 0 && `with ${row.enclosed.join(', ')}`}
          </span>
        </>
      ),
    },
    {
      key: 'to',
      head: 'To',
      width: 'minmax(0,2fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">
            {row.recipients || <span className="text-attention">nobody yet</span>}
          </span>
          <span className="written block truncate text-xs text-soft">{nameOfWhom(pricer, row)}</span>
        </>
      ),
    },
    {
      key: 'standing',
      head: 'Standing',
      width: 'minmax(0,2fr)',
      cell: (row) => {
        const last = row.tries.at(-1);
        return (
          <>
            <span className={looks[row.standing]}>{says[row.standing]}</span>
            {last && (
              <span className="block text-xs text-soft">
                {showMoment(last.at, zone)}
                {ways[last.way]}
              </span>
            )}
            {last?.reason && <span className="written clamp-2 text-xs text-attention">{last.reason}</span>}
          </>
        );
      },
    },
  ];
}

/** The client or member that a letter goes to. */
const nameOfWhom = (pricer: Pricer, { clientId, memberId }: Letter): string | undefined =>
  clientId === null ? pricer.member.get(memberId ?? '')?.name : pricer.client.get(clientId)?.name;
