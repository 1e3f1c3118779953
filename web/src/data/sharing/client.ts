import { RelayClient } from '@half-penny/formats/sealed-log';
import type { SharedBook } from '../database';

/** Talks to the relay as this device. */
export const clientOf = ({ relay, keys }: Pick<SharedBook, 'relay' | 'keys'>): RelayClient =>
  new RelayClient({ address: relay, signing: keys.signing });
