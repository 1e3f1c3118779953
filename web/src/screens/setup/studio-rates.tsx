import type { Pricer } from '@half-penny/core/billing';
import { placeOf } from '@half-penny/core/rates';
import { anywhere, RateCard } from '../../parts/rate-card';
import { ExchangeRates } from './exchange-rates';
import { StudioMarkups } from './studio-markups';

/** The studio's own card and markups, which hold where nothing narrower says otherwise, and exchange rates. */
export function StudioRates({ pricer }: { pricer: Pricer }) {
  const { workspace, rateLines } = pricer.book;
  return (
    <>
      <RateCard
        pricer={pricer}
        title="The studio’s card"
        lines={rateLines.filter((line) => placeOf(line) === null)}
        places={[{ ...anywhere, name: workspace.name }]}
        currency={workspace.currency}
      />
      <StudioMarkups pricer={pricer} />
      <ExchangeRates pricer={pricer} />
    </>
  );
}
