import { wordsOf } from '../data/in-words';
import { readLength, showLength, type Seconds } from '@half-penny/core/time';
import { useRights } from '../data/rights';
import { useState } from 'react';
import { Button } from './button';
import { Coin, describeBillable } from './coin';
import { TextField } from './field';
import { Opener } from './opener';

interface CoinButtonProps {
  seconds: Seconds;
  /** null follows the worked length. */
  billableSeconds: Seconds | null;
  save: (billableSeconds: Seconds | null) => Promise<unknown>;
}

/** The coin as a button: all, none or part of an entry is billable. Whoever may not say so sees the coin alone. */
export function CoinButton({ seconds, billableSeconds, save }: CoinButtonProps) {
  const rights = useRights();
  const [open, setOpen] = useState(false);
  const billable = billableSeconds ?? seconds;
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string>();
  const choose = async (value: Seconds | null) => {
    try {
      await save(value);
      setOpen(false);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  const choosePart = async () => {
    try {
      const typed = readLength(text);
      await choose(typed.seconds);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  if (!rights.has('billable part'))
    return (
      <span role="img" aria-label={describeBillable(seconds, billable)} className="block">
        <Coin seconds={seconds} billable={billable} />
      </span>
    );
  return (
    <Opener
      label="How much is billable"
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setFault(undefined);
        setText(billable > 0 && billable < seconds ? showLength(billable) : '');
      }}
      trigger={{
        className: 'block rounded-full max-md:-m-2.5 max-md:p-2.5',
        'aria-label': `${describeBillable(seconds, billable)}. Change`,
        children: <Coin seconds={seconds} billable={billable} />,
      }}
      className="w-56 p-3"
      align="end"
    >
      <div className="flex flex-col gap-2">
        <Button onClick={() => void choose(null)} icon={<Coin seconds={1} billable={1} size={18} />}>
          All of {showLength(seconds)}
        </Button>
        <Button onClick={() => void choose(0)} icon={<Coin seconds={1} billable={0} size={18} />}>
          None
        </Button>
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void choosePart();
          }}
        >
          <TextField
            label="Only this much"
            value={text}
            fault={fault}
            placeholder="2 h"
            onChange={(event) => setText(event.target.value)}
            className="flex-1"
          />
          <Button type="submit" className={fault ? 'self-center' : ''}>
            Set
          </Button>
        </form>
      </div>
    </Opener>
  );
}
