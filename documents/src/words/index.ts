import type { DocumentLanguage, FrozenInvoice } from '@half-penny/core/model';
import i18next, { type i18n } from 'i18next';
import { de } from './de';
import { en, type Message, type Messages } from './en';
import { es } from './es';
import { fr } from './fr';
import { it } from './it';
import { nl } from './nl';

export type { Message } from './en';

/** What documents say, in each language that they are written in. */
export const catalogues: Readonly<Record<DocumentLanguage, Messages>> = { en, fr, de, es, it, nl };

let made: i18n | undefined;

/** Catalogues ship with the program, so there is nothing to wait for. */
function instance(): i18n {
  if (!made) {
    made = i18next.createInstance();
    void made.init({
      resources: Object.fromEntries(
        Object.entries(catalogues).map(([language, translation]) => [language, { translation }]),
      ),
      fallbackLng: 'en',
      initAsync: false,
      // What is shown is text, never markup.
      interpolation: { escapeValue: false },
      keySeparator: false,
      nsSeparator: false,
    });
  }
  return made;
}

/** The places of a message that are filled in, in the order of their names. @example placesIn('by {{day}}') // → ['day'] */
export const placesIn = (text: string): string[] =>
  [...text.matchAll(/\{\{(\w+)\}\}/g)].map(([, name]) => name!).sort();

/** A message with what stands in it. */
export type Words = (message: PluralMessage, values?: Record<string, string | number>) => string;
/** Messages that depend on a count go by one name. */
type PluralMessage = Exclude<Message, `${string}_one` | `${string}_other`> | 'receipts' | 'exchange' | 'pageChecked';

/**
 * What a document says, in its language, with the studio's own wording where there is some. A text that a catalogue lacks is said in English.
 */
export function wordsIn({ language = 'en', wording = {} }: Pick<FrozenInvoice, 'language' | 'wording'>): Words {
  const { services } = instance();
  return (message, values = {}) => {
    const own = ownKey(message, values.count, language, wording);
    if (own !== undefined) return services.interpolator.interpolate(own, values, language, {});
    return instance().t(message, { ...values, lng: language });
  };
}

/** The studio's wording of a message, in the form that a count takes. */
function ownKey(
  message: string,
  count: string | number | undefined,
  language: DocumentLanguage,
  wording: Readonly<Record<string, string>>,
): string | undefined {
  const forms =
    typeof count === 'number' ? [`${message}_${new Intl.PluralRules(language).select(count)}`, `${message}_other`] : [];
  return [...forms, message].map((key) => wording[key]).find((text) => text !== undefined && text.trim() !== '');
}
