import { wordsOf } from '../data/in-words';
import { useState } from 'react';
import { connect, useStanding } from '../data/server';
import { Button } from './button';
import { TextField } from './field';

/** How this page is connected with the local server, and a place for its letters where it is not. */
export function Connect({ onConnected }: { onConnected: () => void }) {
  const standing = useStanding();
  const [letters, setLetters] = useState('');
  const [fault, setFault] = useState<string>();
  if (standing === 'known' || standing === 'unasked') return null;
  if (standing === 'away')
    return (
      <p className="text-attention">
        The local server does not answer. Start it with <span className="font-mono">npm start</span>; everything else
        works on without it.
      </p>
    );
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        setFault(undefined);
        connect(letters).then(onConnected, (thrown: unknown) => setFault(wordsOf(thrown)));
      }}
    >
      <TextField
        label="The server’s eight letters"
        className="w-64"
        value={letters}
        onChange={(event) => setLetters(event.target.value)}
        autoComplete="off"
        spellCheck={false}
        fault={fault}
        hint="Open the address the server printed, or type what stands after its #"
      />
      <Button type="submit" className="mb-5">
        Connect
      </Button>
    </form>
  );
}
