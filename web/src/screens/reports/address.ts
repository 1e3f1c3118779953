import { readJson } from '@half-penny/core/model';
import { plainDefinition, readDefinition, type Definition, type ReadDefinition } from '@half-penny/core/reports';

/** A question as it stands in an address: only what is not as usual. */
export function inAddress(definition: Definition): string {
  const own = Object.entries(definition).filter(
    ([key, value]) => JSON.stringify(value) !== JSON.stringify(plainDefinition[key as keyof Definition]),
  );
  return JSON.stringify(Object.fromEntries(own));
}

/** Reads a question from an address. @throws Fault when it is none */
export function fromAddress(text: string): ReadDefinition {
  let value: unknown;
  try {
    value = readJson(text);
  } catch {
    value = null;
  }
  return readDefinition(value);
}
