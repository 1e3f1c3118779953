import * as z from 'zod';
import { id, name } from '../fields';

/** Degrees with at most six places: about a tenth of a metre. */
const degrees = (most: number, what: string) =>
  z
    .number()
    .min(-most, `A ${what} lies between −${most} and ${most} degrees.`)
    .max(most, `A ${what} lies between −${most} and ${most} degrees.`)
    .refine((value) => Math.abs(value * 1e6 - Math.round(value * 1e6)) < 1e-3, 'At most six places after the point.');

/** Somewhere that time is recorded from: a point, and how far around it counts. */
export const placeSchema = z.strictObject({
  id,
  name: name.max(100, 'A place is named in at most 100 characters.'),
  /** Degrees north of the equator (WGS 84). */
  latitude: degrees(90, 'latitude'),
  /** Degrees east of Greenwich (WGS 84). */
  longitude: degrees(180, 'longitude'),
  /** Metres around the point that belong to it. */
  radius: z
    .int('A radius is in whole metres.')
    .min(10, 'A radius is at least 10 m.')
    .max(100_000, 'A radius is at most 100 km.'),
});

/** Places to record from. */
export const placesSchema = z.array(placeSchema).max(50, 'At most 50 places.');

/** What becomes of time that a member records from elsewhere: it is refused, noted, or nobody asks. */
export const placeRules = ['bound', 'warned', 'free'] as const;

/** From where time was recorded, as far as it is kept: whether it was one of the places, and how far from them. Never the position. */
export const recordedFromSchema = z.strictObject({
  /** Whether it was one of the places. */
  inside: z.boolean(),
  /** Metres beyond the nearest place, in tens; 0 inside. */
  metres: z.int().min(0).max(20_100_000),
});

export type Place = z.infer<typeof placeSchema>;
export type PlaceRule = (typeof placeRules)[number];
export type RecordedFrom = z.infer<typeof recordedFromSchema>;
