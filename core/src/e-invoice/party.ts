import type { Buyer, FrozenInvoice, Seller } from '../model/records';

/** Where a party is reached by e-invoice: a scheme of the EAS list, and its number or address there. */
export interface Endpoint {
  /** "EM" for a mail address, else four figures. */
  scheme: string;
  id: string;
}

/** A party of an electronic invoice (BG-4, BG-7). Empty where nothing is known. */
export interface Party {
  name: string;
  /** Lines of the address above town and post code. */
  lines: string[];
  city: string;
  postCode: string;
  /** ISO 3166-1. */
  country: string;
  /** With the prefix of its country (BT-31, BT-48). */
  vatId: string;
  /** Of the seller: a tax number that is no VAT identifier (BT-32). */
  taxNumber: string;
  /** In the register of companies (BT-30). */
  companyNumber: string;
  endpoint: Endpoint | null;
  contact: { name: string; telephone: string; email: string };
}

/** What is known of the parties now: it fills what the frozen invoice leaves open, and never stands against it. */
export interface PresentParties {
  seller?: Seller | undefined;
  buyer?: Buyer | undefined;
  /** Where the client is taxed. */
  taxPlace?: string;
  clientEmail?: string;
}

/**
 * A VAT identifier without spaces, points and dashes: two letters of a country (EL of Greece, XI of Northern Ireland) and up to 13 signs
 * (EN 16931-1 BR-CO-9); empty where it is none.
 *
 * @example vatIdOf('GB 123 4567 89') // → 'GB123456789'
 */
export function vatIdOf(taxNumber: string): string {
  const plain = taxNumber.toUpperCase().replace(/[\s.\-/]/g, '');
  return /^[A-Z]{2}(?=.*\d)[A-Z0-9+*]{2,13}$/.test(plain) ? plain : '';
}

/** The country of a VAT identifier by ISO 3166-1: Greece and Northern Ireland have prefixes of their own. */
const countryOfVat = (vatId: string): string => ({ EL: 'GR', XI: 'GB' })[vatId.slice(0, 2)] ?? vatId.slice(0, 2);

/** An electronic address as it is written, taken apart; null where there is none. @example endpointOf('9930:DE123456789') // → { scheme: '9930', id: 'DE123456789' } */
export function endpointOf(written: string): Endpoint | null {
  const address = written.trim();
  if (address === '') return null;
  if (address.includes('@')) return { scheme: 'EM', id: address };
  return { scheme: address.slice(0, 4), id: address.slice(5) };
}

/** The two parties of an issued invoice. */
export function partiesOf(frozen: FrozenInvoice, present: PresentParties): { seller: Party; buyer: Party } {
  const { studio, client } = frozen;
  const seller = filled(frozen.parties?.seller, present.seller);
  const buyer = filled(frozen.parties?.buyer, present.buyer);
  const vatId = vatIdOf(studio.taxNumber);
  const buyerVat = vatIdOf(client.taxNumber);
  return {
    seller: {
      name: studio.name,
      ...placeOf(studio.address, { ...seller, country: seller.country || countryOfVat(vatId) }),
      vatId,
      taxNumber: vatId ? '' : studio.taxNumber.trim(),
      companyNumber: studio.companyNumber.trim(),
      endpoint: endpointOf(seller.electronicAddress ?? '') ?? endpointOf(mailIn(studio.email)),
      contact: { name: seller.contact || studio.name, telephone: seller.telephone ?? '', email: mailIn(studio.email) },
    },
    buyer: {
      name: client.name,
      ...placeOf(client.address, { ...buyer, country: buyer.country || present.taxPlace || countryOfVat(buyerVat) }),
      vatId: buyerVat,
      taxNumber: '',
      companyNumber: '',
      endpoint: endpointOf(buyer.electronicAddress ?? '') ?? endpointOf(mailIn(present.clientEmail ?? '')),
      contact: { name: frozen.attention ?? '', telephone: '', email: '' },
    },
  };
}

const mailIn = (text: string): string => (/^[^@\s]+@[^@\s]+$/.test(text.trim()) ? text.trim() : '');

/** What was frozen, and of the rest what is known now. */
function filled<T extends object>(frozen: T | undefined, now: T | undefined): Partial<T> {
  const known = Object.entries(frozen ?? {}).filter(([, value]) => value !== '');
  return { ...now, ...(Object.fromEntries(known) as Partial<T>) };
}

/** The address taken apart: lines that only repeat town, post code or both stand in their own fields. */
function placeOf(
  address: string,
  { city = '', postCode = '', country = '' }: Partial<Buyer>,
): Pick<Party, 'lines' | 'city' | 'postCode' | 'country'> {
  const bare = (text: string) => text.toLowerCase().replace(/[\s,]/g, '');
  const said = new Set([city, postCode, city + postCode, postCode + city, country].map(bare));
  const lines = address
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '' && !said.has(bare(line)));
  return { lines, city: city.trim(), postCode: postCode.trim(), country };
}
