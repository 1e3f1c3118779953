import { messageOf } from '@half-penny/core/model';
import { useState, type FormEvent } from 'react';

/** A form that does one thing when it is sent: what is wrong stays with it, in words, until it is sent again. */
export function useSubmit(task: () => Promise<unknown>): {
  fault: string | undefined;
  submit: (event?: FormEvent) => void;
} {
  const [fault, setFault] = useState<string>();
  const submit = (event?: FormEvent) => {
    event?.preventDefault();
    task().then(
      () => setFault(undefined),
      (thrown: unknown) => setFault(messageOf(thrown)),
    );
  };
  return { fault, submit };
}
