import type { ClientPage, PageItem } from '@half-penny/core/client-page';
import { showAmount, sumExact, type Minor } from '@half-penny/core/money';
import { showBilled } from '@half-penny/core/time';
import type { ReactNode } from 'react';
import { showDay, type InvoiceView, type LineView } from '../invoice-view';
import type { Words } from '../words';
import type { PageReceipt, Told } from './told';

/** Columns of an open book and of several taxes stand where the paper has them. */
const columnsOf = ({ openBook, rates }: InvoiceView): number => 4 + (openBook ? 2 : 0) + (rates ? 1 : 0);

export function Lines({ lines, path, ...told }: Told & { lines: readonly LineView[]; path: string }) {
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
