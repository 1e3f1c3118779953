import { showAmount } from '@half-penny/core/money';
import { drawnCode } from '../code';
import type { Told } from './told';

/** How it is paid: a press, a telephone held to the screen, or by the bank. */
export function Pay({ page: { pay, frozen }, view, t }: Told) {
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
