import type { Place } from '../model/records';

/** Where somebody is, as a device tells it (WGS 84). */
export interface Position {
  latitude: number;
  longitude: number;
  /** Metres that it may be wrong by. */
  accuracy: number;
}

/** Metres of the Earth's mean radius (IUGG). */
const EARTH = 6_371_008.8;

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

type Point = Pick<Position, 'latitude' | 'longitude'>;

/**
 * How far two points are from each other over a round Earth, in metres: the haversine formula, which stays exact for points close together
 * (Sinnott, "Virtues of the Haversine", Sky and Telescope 68, 1984). The Earth is not quite round: up to 0.5 % off.
 *
 * @example distance({ latitude: 0, longitude: 0 }, { latitude: 0, longitude: 1 }) // → 111195.08…
 */
export function distance(a: Point, b: Point): number {
  const [north, east] = [radians(b.latitude - a.latitude), radians(b.longitude - a.longitude)];
  const h =
    Math.sin(north / 2) ** 2 + Math.cos(radians(a.latitude)) * Math.cos(radians(b.latitude)) * Math.sin(east / 2) ** 2;
  return 2 * EARTH * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** A device that is more unsure than this is not believed to be where it says. */
const MOST_UNSURE = 200;

/** Metres that a position lies beyond a place; 0 inside. What the device is unsure of is taken in the person's favour. */
export const beyond = (place: Place, position: Position): number =>
  Math.max(0, distance(place, position) - place.radius - Math.min(position.accuracy, MOST_UNSURE));

/** The nearest of some places, and how far beyond it a position lies; null where there is no place. */
export function nearest(places: readonly Place[], position: Position): { place: Place; metres: number } | null {
  let found: { place: Place; metres: number } | null = null;
  for (const place of places) {
    const metres = beyond(place, position);
    if (found === null || metres < found.metres) found = { place, metres };
  }
  return found;
}

/**
 * "430 m", "1.2 km", "85 km".
 *
 * @example showDistance(1234) // → '1.2 km'
 */
export function showDistance(metres: number): string {
  if (metres < 1000) return `${Math.max(10, Math.round(metres / 10) * 10)} m`;
  return metres < 10_000 ? `${Math.round(metres / 100) / 10} km` : `${Math.round(metres / 1000)} km`;
}
