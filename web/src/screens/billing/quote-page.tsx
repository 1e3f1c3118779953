import type { Pricer } from '@half-penny/core/billing';
import type { FrozenInvoice, Quote } from '@half-penny/core/model';
import { freezeQuote, isChanged, lastVersion, quoteStanding } from '@half-penny/core/quotes';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { usePricer } from '../../data/book';
import { wordsOf } from '../../data/in-words';
import { useToday } from '../../data/queries';
import { useRow } from '../../data/read';
import { composeLetter } from '../../data/letters';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showMoment, showShortDay } from '../../parts/days';
import { Loading, Page } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { AnswerDialog } from './answer-dialog';
import { ClientPageDialog } from './client-page-dialog';
import { InvoiceSheet } from './invoice-sheet';
import { LetterDialog } from '../../parts/letter-dialog';
import { QuoteMark } from './quotes';
import { QuoteWriting } from './quote-writing';
import { usePaper } from './use-paper';

/** One quote: written, given to the client, answered. */
export default function QuotePage() {
  const { quoteId = '' } = useParams();
  const pricer = usePricer();
  const quote = useRow('quotes', quoteId);
  if (!pricer || quote === undefined)
    return (
      <Page title="Quote">
        <Loading />
      </Page>
    );
  if (quote === null)
    return (
      <Page title="Quote">
        <p className="text-soft">
          There is no such quote; one that was deleted is gone from here.{' '}
          <Link to="/billing/quotes" className="text-time underline">
            Back to Quotes
          </Link>
        </p>
      </Page>
    );
  return <Whole pricer={pricer} quote={quote} />;
}

function Whole({ pricer, quote }: { pricer: Pricer; quote: Quote }) {
  const today = useToday();
  const navigate = useNavigate();
  const { attempt } = useChanges();
  const { memberId } = useSession();
  const [sending, setSending] = useState(false);
  const [paging, setPaging] = useState(false);
  const [answering, setAnswering] = useState<'accept' | 'decline' | null>(null);
  const given = lastVersion(quote);
  const open = quote.answer === null;
  const changed = open && isChanged(quote);
  const standing = quoteStanding(quote, today);
  const preview = previewOf(pricer, quote, today);
  const sheet = changed ? preview.frozen : given!.frozen;
  const paper = usePaper(given?.frozen);
  return (
    <Page
      title={quote.title}
      paper
      aside={
        <span className="written clamp-2">
          {given ? `${given.frozen.number} · ` : ''}
          {pricer.client.get(quote.clientId)?.name} · <QuoteMark standing={standing} />
        </span>
      }
      actions={
        <>
          {!given && (
            <Button
              onClick={() =>
                void attempt('quote.remove', { id: quote.id }).then((row) => row && navigate('/billing/quotes'))
              }
            >
              Delete
            </Button>
          )}
          {open && given && <Button onClick={() => setAnswering('decline')}>Declined…</Button>}
          {given && (
            <Button icon={<Download size={16} />} onClick={() => paper.make()}>
              PDF{changed ? ` of ${given.frozen.number}` : ''}
            </Button>
          )}
          {open && given && !changed && <Button onClick={() => setPaging(true)}>Client’s page</Button>}
          {open && given && !changed && <Button onClick={() => setSending(true)}>Send…</Button>}
          {open && given && !changed && (
            <Button kind="main" onClick={() => setAnswering('accept')}>
              Accepted…
            </Button>
          )}
          {changed && (
            <Button kind="main" disabled={!preview.frozen} onClick={() => void attempt('quote.give', { id: quote.id })}>
              {given ? 'Give it again as it is now' : 'Give to the client'}
            </Button>
          )}
        </>
      }
      side={<Course quote={quote} pricer={pricer} />}
    >
      {open && <QuoteWriting {...{ pricer, quote }} />}
      {preview.fault && changed && (
        <p className="mb-4 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention print:hidden">
          {preview.fault}
        </p>
      )}
      {sheet && <InvoiceSheet invoice={sheet} {...(changed ? { number: 'Draft' } : {})} />}
      {paper.running && <Progress title="Making the PDF" share={null} onStop={paper.stop} />}
      {sending && given && (
        <LetterDialog
          pricer={pricer}
          frozen={given.frozen}
          letter={composeLetter(pricer, {
            kind: 'quote',
            clientId: quote.clientId,
            frozen: given.frozen,
            owing: null,
            quoteId: quote.id,
            today,
            memberId,
          })}
          onClose={() => setSending(false)}
        />
      )}
      {paging && given && (
        <ClientPageDialog
          {...{ pricer }}
          frozen={given.frozen}
          of={{ invoiceId: null, quoteId: quote.id }}
          clientId={quote.clientId}
          onClose={() => setPaging(false)}
        />
      )}
      {answering && given && (
        <AnswerDialog {...{ pricer, quote, today }} kind={answering} onClose={() => setAnswering(null)} />
      )}
    </Page>
  );
}

/** As it would be given now, or what keeps it from that. */
function previewOf(pricer: Pricer, quote: Quote, today: string): { frozen?: FrozenInvoice; fault?: string } {
  if (quote.lines.length === 0) return { fault: 'Write its first line below: what is offered, and at what price.' };
  try {
    return { frozen: freezeQuote(pricer, quote, quote.seq ?? 1, today) };
  } catch (thrown) {
    return { fault: wordsOf(thrown) };
  }
}

/** What became of it, one below the other. */
function Course({ quote, pricer }: { quote: Quote; pricer: Pricer }) {
  const { zone } = pricer.book.workspace;
  const { answer, versions } = quote;
  const project = pricer.book.projects.find((row) => row.id === quote.projectId);
  const dot = 'absolute top-1.5 -left-[5px] size-[9px] rounded-full border-2 border-sheet';
  return (
    <section aria-label="What happened">
      <h2 className="border-b border-ink pb-2 font-semibold">What happened</h2>
      <ol className="ml-1.5 border-l border-strong pt-3">
        <li className="relative pb-3 pl-4">
          <span aria-hidden className={`${dot} bg-ink`} />
          Begun
          <span className="block text-xs text-soft">{showMoment(quote.createdAt, zone)}</span>
        </li>
        {versions.map(({ at, frozen, opened }) => (
          <li key={frozen.number} className="relative pb-3 pl-4">
            <span aria-hidden className={`${dot} bg-ink`} />
            {frozen.number} given
            <span className="block text-xs text-soft">
              {showMoment(at, zone)}, valid until {showShortDay(frozen.quote!.validUntil)}
              {opened !== undefined && <span className="block">page opened {showMoment(opened, zone)}</span>}
            </span>
          </li>
        ))}
        {answer && (
          <li className="relative pb-3 pl-4">
            <span aria-hidden className={`${dot} ${answer.kind === 'accepted' ? 'bg-time' : 'bg-soft'}`} />
            {answer.kind === 'accepted' ? 'Accepted' : 'Declined'}
            {answer.by && ` by ${answer.by}`}
            <span className="block text-xs text-soft">{showShortDay(answer.day)}</span>
            {answer.signed && <span className="block text-xs text-soft">signed on its page</span>}
            {answer.note && <span className="written clamp-2 text-xs text-soft">{answer.note}</span>}
          </li>
        )}
      </ol>
      {project && (
        <p className="mt-2 border-t border-rule pt-3">
          {answer ? 'It became ' : 'For '}
          <Link className="text-time underline underline-offset-2" to={`/clients/project/${project.id}/money`}>
            {pricer.tree.pathOf(project.id)}
          </Link>
        </p>
      )}
    </section>
  );
}
