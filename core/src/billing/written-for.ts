import type { Client, DocumentLanguage, FrozenInvoice, Workspace } from '../model/records';
import type { NumberStyle } from '../money/written';

/** How days and figures are written in a language, where the studio does not write in it itself. */
const USUAL: Readonly<Record<DocumentLanguage, { datesIn: string; numberStyle: NumberStyle }>> = {
  en: { datesIn: 'en-GB', numberStyle: '1,234.50' },
  fr: { datesIn: 'fr-FR', numberStyle: '1 234,50' },
  de: { datesIn: 'de-DE', numberStyle: '1.234,50' },
  es: { datesIn: 'es-ES', numberStyle: '1.234,50' },
  it: { datesIn: 'it-IT', numberStyle: '1.234,50' },
  nl: { datesIn: 'nl-NL', numberStyle: '1.234,50' },
};

type Written = Pick<FrozenInvoice, 'numberStyle' | 'datesIn' | 'language' | 'wording'>;

/** How what goes to a client is written: in its language where that is said, in the studio's own wording; else as the studio writes. */
export function writtenFor(
  { datesIn, numberStyle, wording }: Pick<Workspace, 'datesIn' | 'numberStyle' | 'wording'>,
  { language }: Pick<Client, 'language'>,
): Written {
  const own = wording?.[language ?? 'en'];
  const words = own && Object.keys(own).length > 0 ? { wording: own } : {};
  if (language === undefined) return { numberStyle, ...(datesIn !== undefined && { datesIn }), ...words };
  const studioWrites = (datesIn ?? 'en-GB').split('-')[0];
  const as = studioWrites === language ? { numberStyle, datesIn: datesIn ?? 'en-GB' } : USUAL[language];
  return { ...as, language, ...words };
}
