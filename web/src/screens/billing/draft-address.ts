import type { Pricer } from '@half-penny/core/billing';
import type { Invoice } from '@half-penny/core/model';
import type { SentFrom } from '../../parts/page';

/** The way back to a draft, for whoever is sent from it to put something right. */
export const backToDraft = (pricer: Pricer, { id, clientId }: Invoice): SentFrom['back'] => ({
  to: `/billing/invoice/${id}`,
  name: `the draft for ${pricer.client.get(clientId)!.name.slice(0, 60)}`,
});
