/**
 * How often a property is tried: as often as it says, or as often as the environment variable PROPERTY_RUNS says, few for a quick look and
 * many for a night.
 */
export function runs(usual: number): number {
  const { process } = globalThis as { process?: { env: Record<string, string | undefined> } };
  const asked = Number(process?.env.PROPERTY_RUNS);
  return Number.isInteger(asked) && asked > 0 ? asked : usual;
}
