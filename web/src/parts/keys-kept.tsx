import { Fault, type KeyHolder } from '@half-penny/core/model';
import { useState } from 'react';
import { bringKeysBack, keepInBackups, useAreKeysHere } from '../data/keys';
import { useChanges } from '../data/session';
import { Button } from './button';
import { Dialog } from './dialog';
import { TextField } from './field';
import { Section } from './page';
import { TwiceTyped, useTwiceTyped } from './twice-typed';
import { useSubmit } from './use-submit';

/** Shorter ones are guessed. */
const SHORTEST = 10;

/** Where the keys of this workspace are: in this browser, and in its backups where somebody gave a passphrase for that. */
export function KeysKept({ own, whenLost }: { own: KeyHolder; whenLost: string }) {
  const areHere = useAreKeysHere(own.keys);
  const changes = useChanges();
  const [wrapping, setWrapping] = useState(false);
  if (areHere === undefined) return null;
  if (!areHere) return <BringBack {...{ own, whenLost }} />;
  return (
    <Section
      title="Keys"
      actions={
        own.wrapped ? (
          <Button onClick={() => void changes.attempt('keys.wrap', { wrapped: null })}>Take them out of backups</Button>
        ) : (
          <Button onClick={() => setWrapping(true)}>Keep them in backups…</Button>
        )
      }
    >
      <p className="max-w-2xl text-soft">
        The keys are in this browser
        {own.wrapped
          ? ', and under your passphrase in every backup and exported file.'
          : `, and nowhere else: no backup or exported file has them. ${whenLost}`}
      </p>
      {wrapping && <WrapDialog own={own} onClose={() => setWrapping(false)} />}
    </Section>
  );
}

function WrapDialog({ own, onClose }: { own: KeyHolder; onClose: () => void }) {
  const changes = useChanges();
  const { passphrase, needSame, typed } = useTwiceTyped();
  const { faults, fault, submit } = useSubmit(async () => {
    if (passphrase.length < SHORTEST)
      throw new Fault('too-short', `A passphrase has at least ${SHORTEST} letters.`, 'passphrase');
    needSame();
    await keepInBackups(changes, own, passphrase);
    onClose();
  }, ['passphrase', 'again']);
  return (
    <Dialog
      open
      title="Keep the keys in backups"
      about="They are sealed by a passphrase. It is kept nowhere: whoever forgets it makes new keys and meets everybody again."
      onClose={onClose}
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TwiceTyped typed={typed} faults={faults} />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Not now</Button>
          <Button type="submit" kind="main">
            Keep in backups
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function BringBack({ own, whenLost }: { own: KeyHolder; whenLost: string }) {
  const [passphrase, setPassphrase] = useState('');
  const { fault, submit } = useSubmit(() => bringKeysBack(own, passphrase));
  return (
    <Section title="Keys">
      <p className="max-w-2xl border-l-[3px] border-attention bg-attention-ground px-3 py-2">
        The keys of this workspace are not in this browser, so no file can be made or opened.{' '}
        {own.wrapped ? 'They came with it under a passphrase.' : whenLost}
      </p>
      {own.wrapped && (
        <form onSubmit={submit} className="mt-3 flex flex-wrap items-end gap-3">
          <TextField
            label="Passphrase of the keys"
            type="password"
            className="w-72"
            autoComplete="current-password"
            value={passphrase}
            onChange={(event) => setPassphrase(event.target.value)}
            fault={fault}
          />
          <Button type="submit" kind="main">
            Bring them back
          </Button>
        </form>
      )}
    </Section>
  );
}
