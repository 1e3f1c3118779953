import type { PageRest } from '@half-penny/core/client-page';
import { showAmount, sumExact, type Minor } from '@half-penny/core/money';
import { Fragment } from 'react';
import type { Told } from './told';

export function Rest({ page: { frozen }, t, rest }: Told & { rest: PageRest }) {
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
