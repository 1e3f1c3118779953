import type { ClientPage } from '@half-penny/core/client-page';
import { Fragment } from 'react';
import { invoiceView, showDay, type InvoiceView } from '../invoice-view';
import { wordsIn } from '../words';
import { Answer } from './answer';
import { Hours } from './hours';
import { Lines } from './lines';
import { Pay } from './paying';
import { Rest } from './rest';
import type { PageReceipt, Told } from './told';

interface SheetProps {
  page: ClientPage;
  receipts: readonly PageReceipt[];
  /** Of the studio, as a data address; empty for none. */
  logo: string;
}

/** What a client reads: the document, and behind each line what it is made of. */
export function ClientSheet({ page, receipts, logo }: SheetProps) {
  const { frozen } = page;
  const view = invoiceView(frozen);
  const t = wordsIn(frozen);
  const told: Told = { page, view, t, receipts };
  return (
    <main>
      <Head {...told} logo={logo} />
      <Checked {...told} />
      {view.opening.length > 0 && (
        <section>
          <h2>{view.opening[0]}</h2>
          {view.opening.slice(1).map((row, index) => (
            <p key={index}>{row}</p>
          ))}
        </section>
      )}
      <Lines {...told} lines={view.lines} path="lines" />
      {view.options.length > 0 && (
        <section>
          <h2>{view.labels.optional}</h2>
          <Lines {...told} lines={view.options} path="quote/options" />
        </section>
      )}
      <Totals view={view} />
      <Pay {...told} />
      <Hours {...told} />
      {page.rest && <Rest {...told} rest={page.rest} />}
      {view.notes.length > 0 && (
        <section className="soft" style={{ marginTop: '1.75rem' }}>
          {view.notes.map((row, index) => (
            <p key={index}>{row}</p>
          ))}
        </section>
      )}
      {page.quote && <Answer {...told} quote={page.quote} />}
      <footer>{t('madeOn', { day: showDay(frozen, page.made), studio: frozen.studio.name })}</footer>
    </main>
  );
}

function Head({ view, logo }: Told & { logo: string }) {
  return (
    <header>
      <div>
        {logo && <img src={logo} alt="" />}
        <p className="name">{view.studioName}</p>
        {view.studio.map((row, index) => (
          <p key={index} className="soft small">
            {row}
          </p>
        ))}
        <div style={{ marginTop: '1.25rem' }}>
          {view.client.map((row, index) => (
            <p key={index} style={index === 0 ? { fontWeight: 700 } : {}}>
              {row}
            </p>
          ))}
        </div>
      </div>
      <div className="asked">
        <h1>{view.due.label}</h1>
        <strong data-of={view.due.of}>{view.due.amount}</strong>
        {view.due.by && <p>{view.due.by}</p>}
        <dl className="facts">
          {view.facts.map(([label, value]) => (
            <Fragment key={label}>
              <dt>{label}</dt>
              <dd>{value}</dd>
            </Fragment>
          ))}
        </dl>
      </div>
    </header>
  );
}

/** What came of doing the sums again; the script shows one of them. */
function Checked({ t }: Told) {
  const says = (count: number) => t('pageChecked', { count }).replace(String(count), '#');
  return (
    <>
      <p id="unchecked" className="strip soft">
        {t('pageUnchecked')}
      </p>
      <p id="checked" className="strip" role="status" data-one={says(1)} data-other={says(7)} hidden>
        <svg viewBox="0 0 16 16" aria-hidden>
          <path d="M2 9l4 4 8-10" fill="none" stroke="currentColor" strokeWidth="2.4" />
        </svg>
        <span data-says="" />
      </p>
      <p id="wrong" className="strip bad" role="alert" hidden>
        {t('pageWrong')}
      </p>
    </>
  );
}

const Totals = ({ view }: { view: InvoiceView }) => (
  <table className="totals">
    <tbody>
      {view.totals.map((total, index) => (
        <tr key={index} className={total.strong ? 'strong' : total.beside ? 'soft' : undefined}>
          <td>{total.label}</td>
          <td className="n" {...(total.of && { 'data-of': total.of })}>
            {total.amount}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);
