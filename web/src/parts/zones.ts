/** All time zones this browser knows, with the one in use among them. */
export function zones(inUse: string): (readonly [string, string])[] {
  const known = Intl.supportedValuesOf('timeZone');
  return [...new Set([inUse, ...known])].sort().map((zone) => [zone, zone.replaceAll('_', ' ')] as const);
}
