import { faultsIn } from '@half-penny/core/model';
import { useRef, useState, type FormEvent } from 'react';

interface Submitting {
  /** What is wrong with a field, by its name. */
  faults: Readonly<Record<string, string>>;
  /** What is wrong and of no field. */
  fault: string | undefined;
  submit: (event?: FormEvent) => void;
}

/**
 * A form that does one thing when it is sent: all that is wrong stays with it, in words and at its fields, until it is sent again.
 *
 * @param fields by the names that faults have; what is wrong with another stands for the whole form
 */
export function useSubmit(task: () => Promise<unknown>, fields: readonly string[] = []): Submitting {
  const [found, setFound] = useState<ReturnType<typeof faultsIn>>([]);
  const underWay = useRef(false);
  const submit = (event?: FormEvent) => {
    event?.preventDefault();
    // Enter twice, or a double press, is one.
    if (underWay.current) return;
    underWay.current = true;
    task()
      .then(
        () => setFound([]),
        (thrown: unknown) => setFound(faultsIn(thrown)),
      )
      .finally(() => (underWay.current = false));
  };
  const fieldOf = (path: string) => fields.find((field) => path === field || path.startsWith(`${field}/`));
  const faults: Record<string, string> = {};
  const others: string[] = [];
  for (const { path, message } of found) {
    const field = fieldOf(path);
    if (field === undefined) others.push(message);
    else faults[field] ??= message;
  }
  return { faults, fault: others.length > 0 ? [...new Set(others)].join(' ') : undefined, submit };
}
