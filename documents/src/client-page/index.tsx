import type { ClientPage } from '@half-penny/core/client-page';
import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { renderToStaticMarkup } from 'react-dom/server';
import script from 'virtual:client-page-script';
import { designOf } from '../designs';
import { invoiceView } from '../invoice-view';
import { ClientSheet } from './sheet';
import type { PageReceipt } from './told';
import { styleOf } from './style';

export type { PageReceipt } from './told';

/** What a page takes along, each as a data address: nothing in it is asked for from elsewhere. */
export interface PageParts {
  logo: string;
  receipts: readonly PageReceipt[];
  /** The typeface by weight; the client's own where empty. */
  fonts: Readonly<Record<400 | 700, string>>;
}

const base64 = (bytes: Uint8Array): string => btoa(String.fromCharCode(...bytes));

/** JSON that cannot end the element it stands in (HTML, 4.12.1.3). */
const inScript = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c');

/**
 * A page for a client as one HTML file that holds all it needs. Its policy lets no script run but its own, and nothing be loaded.
 *
 * @returns the document's text
 */
export function clientPageHtml(page: ClientPage, { logo, receipts, fonts }: PageParts): string {
  const { frozen } = page;
  const view = invoiceView(frozen);
  const policy = [
    "default-src 'none'",
    "style-src 'unsafe-inline'",
    'img-src data:',
    'font-src data:',
    `script-src 'sha256-${base64(sha256(utf8ToBytes(script)))}'`,
    "base-uri 'none'",
  ].join('; ');
  const font = (weight: 400 | 700) => (fonts[weight] ? `url(${fonts[weight]})` : 'local("sans-serif")');
  const style = styleOf(designOf(frozen)).replace('FONT400', font(400)).replace('FONT700', font(700));
  const body = renderToStaticMarkup(<ClientSheet {...{ page, receipts, logo }} />);
  const title = renderToStaticMarkup(<title>{`${view.title} ${frozen.number}, ${frozen.studio.name}`}</title>);
  return [
    `<!doctype html><html lang="${frozen.language ?? 'en'}"><head><meta charset="utf-8">`,
    `<meta http-equiv="Content-Security-Policy" content="${policy}">`,
    '<meta name="viewport" content="width=device-width,initial-scale=1"><meta name="robots" content="noindex">',
    `<meta name="color-scheme" content="light dark">${title}<style>${style}</style></head><body>`,
    `${body}<script type="application/json" id="page">${inScript(page)}</script><script type="module">${script}</script></body></html>`,
  ].join('\n');
}
