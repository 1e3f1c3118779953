import { getCountries, parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js/min';
import type { Zone } from '../time/day';

/** A number as it is dialled: its digits, with a plus before those of another country ("00" means the same). */
export const dialled = (text: string): string => text.replace(/[^\d+]/g, '').replace(/^00/, '+');

/** A number with the code of its country, however it was written; the text as it is where it is none, or its country is not known. */
export function numberOf(text: string, country = ''): string {
  if (!NUMBER.test(text)) return text;
  return waysToDial(text, country).find((way) => way.startsWith('+')) ?? dialled(text);
}

/** A number as it is dialled, whatever signs stand between its digits; any other text as it is. */
export const withoutSigns = (text: string): string => (NUMBER.test(text) ? dialled(text) : text);
const NUMBER = /^\+?[\d\s()./-]{6,}$/;

/**
 * The ways in which call lists write one telephone number: with the country's code, with and without a plus, and as within the country.
 * By libphonenumber's plans of numbers; what fits none of them is known by its digits alone.
 *
 * @param text as somebody wrote it
 * @param country whose number it is where it names none, by two letters of ISO 3166-1; empty where nobody knows
 */
export function waysToDial(text: string, country = ''): string[] {
  const own = dialled(text);
  const known = (getCountries() as string[]).includes(country) ? (country as CountryCode) : undefined;
  const parsed = parsePhoneNumberFromString(own, known);
  const ways = parsed?.isPossible()
    ? [parsed.number, parsed.number.slice(1), dialled(parsed.formatNational()), own]
    : [own];
  return [...new Set<string>(ways)].filter((way) => way.length >= LEAST_DIGITS);
}

/** Fewer digits are an extension, which many have. */
const LEAST_DIGITS = 6;

/** The country that a zone of time is of, by two letters; empty where the platform does not tell. */
export function countryOfZone(zone: Zone): string {
  let country = countries.get(zone);
  if (country === undefined) {
    country = getCountries().find((each) => zonesOf(each).includes(zone)) ?? '';
    countries.set(zone, country);
  }
  return country;
}
const countries = new Map<Zone, string>();

/** ECMA-402 had it as a property before it was made a method. */
interface ZonesOfLocale {
  timeZones?: readonly string[];
  getTimeZones?: () => readonly string[];
}

function zonesOf(country: string): readonly string[] {
  const locale = new Intl.Locale(`und-${country}`) as ZonesOfLocale;
  return locale.getTimeZones?.() ?? locale.timeZones ?? [];
}
