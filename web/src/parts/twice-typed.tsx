import { Fault } from '@half-penny/core/model';
import { useState } from 'react';
import { TextField } from './field';

/** A passphrase that is typed twice: what is mistyped once is lost with everything under it. */
export function useTwiceTyped() {
  const [passphrase, type] = useState('');
  const [again, typeAgain] = useState('');
  return {
    passphrase,
    /** @throws Fault where the two are not the same */
    needSame(): void {
      if (passphrase !== again) throw new Fault('lengths-differ', 'The two are not the same.', 'again');
    },
    typed: { passphrase, again, type, typeAgain },
  };
}

interface TwiceTypedProps {
  typed: ReturnType<typeof useTwiceTyped>['typed'];
  faults: Readonly<Partial<Record<'passphrase' | 'again', string>>>;
}

/** The two fields. */
export const TwiceTyped = ({ typed, faults }: TwiceTypedProps) => (
  <>
    <TextField
      label="Passphrase"
      type="password"
      autoComplete="new-password"
      hint="At least ten letters; several words are good ones"
      value={typed.passphrase}
      onChange={(event) => typed.type(event.target.value)}
      fault={faults.passphrase}
    />
    <TextField
      label="Once more"
      type="password"
      autoComplete="new-password"
      value={typed.again}
      onChange={(event) => typed.typeAgain(event.target.value)}
      fault={faults.again}
    />
  </>
);
