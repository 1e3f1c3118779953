import { hoursByDay, type ClientPage, type PageItem, type PageRest } from '@half-penny/core/client-page';
import { showAmount, sumExact, type Minor } from '@half-penny/core/money';
import { addDays, showBilled, showLength, type Day } from '@half-penny/core/time';
import { Fragment, type ReactNode } from 'react';
import { drawnCode } from '../code';
import { invoiceView, showDay, type InvoiceView, type LineView } from '../invoice-view';
import { wordsIn, type Words } from '../words';

/** A receipt that can be looked at in a page. */
export interface PageReceipt {
  /** The line that it belongs to, counted from 1. */
  line: number;
  name: string;
  /** Its bytes as a data address. */
  address: string;
  picture: boolean;
}

interface SheetProps {
  page: ClientPage;
  receipts: readonly PageReceipt[];
  /** Of the studio, as a data address; empty for none. */
  logo: string;
}

/** What every part of the sheet needs. */
interface Told {
  page: ClientPage;
  view: InvoiceView;
  t: Words;
  receipts: readonly PageReceipt[];
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

/** Columns of an open book and of several taxes stand where the paper has them. */
const columnsOf = ({ openBook, rates }: InvoiceView): number => 4 + (openBook ? 2 : 0) + (rates ? 1 : 0);

function Lines({ lines, path, ...told }: Told & { lines: readonly LineView[]; path: string }) {
  const { labels, openBook, rates } = told.view;
  return (
    <table className="lines" style={{ marginTop: '1.75rem' }}>
      <thead>
        <tr>
          <th>{labels.description}</th>
          <th className="n">{labels.quantity}</th>
          <th className="n">{labels.price}</th>
          {openBook && <th className="n">{labels.cost}</th>}
          {openBook && <th className="n">{labels.markup}</th>}
          {rates && <th className="n">{labels.tax}</th>}
          <th className="n">{labels.amount}</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, index) => (
          <Line key={line.key} {...told} line={line} index={index} path={path} />
        ))}
      </tbody>
    </table>
  );
}

function Line({ line, index, path, ...told }: Told & { line: LineView; index: number; path: string }) {
  const { page, view, receipts, t } = told;
  const own = path === 'lines' ? page.items.filter((item) => item.line === line.key) : [];
  const papers = path === 'lines' ? receipts.filter((each) => each.line === index + 1) : [];
  const opens = own.length > 0 || papers.length > 0;
  return (
    <>
      {line.heading && (
        <tr className="head">
          <td colSpan={columnsOf(view)}>{line.heading}</td>
        </tr>
      )}
      <tr className={opens ? 'open' : undefined}>
        <td>
          {line.text}
          {line.discount && <p className="soft small">{line.discount}</p>}
        </td>
        <td className="n">{line.quantity}</td>
        <td className="n">{line.price}</td>
        {view.openBook && <td className="n">{line.cost}</td>}
        {view.openBook && <td className="n">{line.markup}</td>}
        {view.rates && <td className="n">{line.rate}</td>}
        <td className="n" data-of={`${path}/${index}/amount`}>
          {line.amount}
        </td>
      </tr>
      {opens && (
        <tr className="wide">
          <td colSpan={columnsOf(view)}>
            <details>
              <summary>
                {t('howItCame')}
                <span className="sr"> · {own.length}</span>
              </summary>
              <div className="made" role="group" aria-label={line.text} tabIndex={0}>
                {own.length > 0 && <Made {...told} items={own} lineKey={line.key} />}
                {papers.map((paper) => (
                  <Receipt key={paper.address.slice(-60)} paper={paper} />
                ))}
              </div>
            </details>
          </td>
        </tr>
      )}
    </>
  );
}

const Receipt = ({ paper: { picture, address, name } }: { paper: PageReceipt }) =>
  picture ? (
    <img className="receipt" src={address} alt={name} />
  ) : (
    <p>
      <a href={address} download={name}>
        {name}
      </a>
    </p>
  );

/** What a line is made of, item by item, with how lengths were rounded. */
function Made({ page, t, items, lineKey, view }: Told & { items: readonly PageItem[]; lineKey: string }) {
  const { frozen } = page;
  const money = (minor: Minor) => showAmount(minor, frozen.currency, frozen.numberStyle);
  const timed = items.some((item) => item.kind === 'time');
  const rounded = items.some((item) => item.billed !== null && item.billed !== item.seconds);
  const who = items.some((item) => item.who !== '');
  const sum = (of: (item: PageItem) => number) => sumExact(items.map(of));
  const cells = (
    key: string,
    {
      day,
      name,
      text,
      worked,
      billed,
      amount,
    }: Record<'day' | 'name' | 'text' | 'worked' | 'billed' | 'amount', ReactNode>,
  ) => (
    <tr key={key}>
      <td style={{ whiteSpace: 'nowrap' }}>{day}</td>
      {who && <td>{name}</td>}
      <td>{text}</td>
      {timed && <td className="n">{worked}</td>}
      {rounded && <td className="n">{billed}</td>}
      <td className="n">{amount}</td>
    </tr>
  );
  return (
    <>
      <table>
        <thead>
          <tr>
            <th>{t('date')}</th>
            {who && <th>{t('who')}</th>}
            <th>{t('what')}</th>
            {timed && <th className="n">{t('worked')}</th>}
            {rounded && <th className="n">{t('billed')}</th>}
            <th className="n">{view.labels.amount}</th>
          </tr>
        </thead>
        <tbody>
          {items.map((item, index) =>
            cells(String(index), {
              day: item.day && showDay(frozen, item.day),
              name: item.who,
              text: item.text,
              worked: item.kind === 'time' ? lengthOf(item.seconds) : '',
              billed: item.billed === null ? '' : lengthOf(item.billed),
              amount: money(item.amount),
            }),
          )}
          {items.length > 1 &&
            cells('sum', {
              day: <b>{t('total')}</b>,
              name: '',
              text: '',
              worked: lengthOf(sum((item) => item.seconds)),
              billed: lengthOf(sum((item) => item.billed ?? 0)),
              amount: <b>{money(sum((item) => item.amount))}</b>,
            })}
        </tbody>
      </table>
      {(page.roundings[lineKey] ?? []).map((policy, index) => (
        <p key={index} className="soft">
          {roundingWords(t, policy)}
        </p>
      ))}
    </>
  );
}

/** "1:30", "−1:30" on a credit note; with seconds where it has some. */
const lengthOf = (seconds: number): string => (seconds < 0 ? `−${showBilled(-seconds)}` : showBilled(seconds));

function roundingWords(
  t: Words,
  { increment, direction, minimum, per }: ClientPage['roundings'][string][number],
): string {
  const step = (seconds: number) =>
    seconds % 60 === 0 ? `${seconds / 60} ${t('minute')}` : `${seconds} ${t('second')}`;
  const how = { up: 'roundedUp', nearest: 'roundedNearest', down: 'roundedDown' } as const;
  return [
    increment > 1 && t(how[direction], { step: step(increment) }),
    per === 'day and job' && t('roundedDay'),
    minimum > 0 && t('roundedLeast', { least: step(minimum) }),
  ]
    .filter(Boolean)
    .join(' ');
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

/** How it is paid: a press, a telephone held to the screen, or by the bank. */
function Pay({ page: { pay, frozen }, view, t }: Told) {
  if (view.payment.length === 0 && !pay) return null;
  return (
    <section>
      <h2>{view.labels.howToPay}</h2>
      {view.payment.map((row, index) => (
        <p key={index}>{row}</p>
      ))}
      {pay && (
        <div className="pay">
          <a className="go" href={pay.at} target="_blank" rel="noreferrer">
            {t('payNow', { amount: showAmount(pay.amount, frozen.currency, frozen.numberStyle) })}
          </a>
          <Code text={pay.at} says={t('payByPhone')} />
        </div>
      )}
      {view.payCode && (
        <div className="pay">
          <Code text={view.payCode} says={view.labels.payByCode} />
        </div>
      )}
    </section>
  );
}

function Code({ text, says }: { text: string; says: string }) {
  const { size, path } = drawnCode(text);
  return (
    <figure>
      <svg viewBox={`-3 -3 ${size + 6} ${size + 6}`} role="img" aria-label={says}>
        <path d={path} fill="#000" />
      </svg>
      <figcaption className="soft small">{says}</figcaption>
    </figure>
  );
}

/** Each day's hours as a bar that hangs from the line of days. */
function Hours({ page, t }: Told) {
  const days = hoursByDay(page.items, (day) => addDays(day, 1));
  if (days.length < 2) return null;
  const most = Math.max(...days.map((day) => day.seconds), 1);
  const all = sumExact(days.map((day) => day.seconds));
  const show = (day: Day) => showDay(page.frozen, day);
  const label = t('hoursByDay', { hours: showLength(all) });
  const WIDE = 12;
  return (
    <section>
      <h2>{label}</h2>
      <svg
        className="days"
        viewBox={`0 0 ${days.length * WIDE} 58`}
        preserveAspectRatio="none"
        role="img"
        aria-label={days
          .filter((day) => day.seconds > 0)
          .map((day) => `${show(day.day)} ${showLength(day.seconds)}`)
          .join('; ')}
      >
        <line x1="0" y1="2" x2={days.length * WIDE} y2="2" strokeWidth="1.5" />
        {days.map(({ day, seconds }, index) => (
          <rect
            key={day}
            x={index * WIDE + 3}
            y="2"
            width={WIDE - 6}
            height={seconds === 0 ? 0 : 3 + (52 * seconds) / most}
          >
            <title>{`${show(day)}: ${showLength(seconds)}`}</title>
          </rect>
        ))}
      </svg>
      <p className="ends">
        <span>{show(days[0]!.day)}</span>
        <span>{show(days.at(-1)!.day)}</span>
      </p>
    </section>
  );
}

function Rest({ page: { frozen }, t, rest }: Told & { rest: PageRest }) {
  const money = (minor: Minor) => showAmount(minor, frozen.currency, frozen.numberStyle);
  const whole = Math.max(1, sumExact([rest.agreed, rest.changes]), rest.invoiced);
  const share = (part: Minor) => `${Math.max(0, (part * 100) / whole)}%`;
  return (
    <section>
      <h2>{t('whatIsLeft')}</h2>
      <div className="rest" aria-hidden>
        <span style={{ width: share(rest.invoiced) }} />
        <span style={{ width: share(rest.remaining) }} />
      </div>
      <dl className="facts">
        {(
          [
            ['agreedSum', rest.agreed],
            ['changesSum', rest.changes],
            ['invoicedSum', rest.invoiced],
            ['leftSum', rest.remaining],
          ] as const
        ).map(([word, minor]) => (
          <Fragment key={word}>
            <dt>{t(word)}</dt>
            <dd>{money(minor)}</dd>
          </Fragment>
        ))}
      </dl>
    </section>
  );
}

/** Accepting or declining; what is pressed is signed in the browser. */
function Answer({ page: { frozen }, t, quote }: Told & { quote: NonNullable<ClientPage['quote']> }) {
  const money = (minor: Minor) => showAmount(minor, frozen.currency, frozen.numberStyle);
  const file = `answer-${frozen.number.replace(/[^\w.-]+/g, '-')}.json`;
  return (
    <section>
      <h2>{t('yourAnswer')}</h2>
      <p id="saved" className="strip" role="status" tabIndex={-1} hidden>
        {t('answerSaved', { file, email: frozen.studio.email })}
      </p>
      <p id="answered" className="strip" role="status" tabIndex={-1} hidden>
        {t('answerSent')}
      </p>
      <form method="post" hidden>
        <fieldset style={{ border: 0, padding: 0, margin: 0 }}>
          {quote.choices.map(({ key, text, amount, optional }) => (
            <label key={key} className="choice">
              <input type="checkbox" name="line" value={key} defaultChecked={!optional} />
              <span>{text}</span>
              <span className="n">{money(amount)}</span>
            </label>
          ))}
          <p style={{ paddingTop: '.4rem' }}>
            {t('answerSum')} <output />
          </p>
        </fieldset>
        <label>
          {t('yourName')}
          <input type="text" name="by" maxLength={200} autoComplete="name" />
        </label>
        <label>
          {t('yourNote')}
          <textarea name="note" rows={2} maxLength={1000} />
        </label>
        <input type="hidden" name="signed" />
        <p role="alert" data-name={t('answerName')} data-lines={t('answerLines')} />
        <p>
          <button className="go" type="submit" name="decision" value="accepted">
            {t('accept')}
          </button>{' '}
          <button className="go other" type="submit" name="decision" value="declined">
            {t('decline')}
          </button>
        </p>
        <p className="soft small">{t('answerSigned')}</p>
      </form>
    </section>
  );
}
