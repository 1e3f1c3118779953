import { wordsOf } from '../data/in-words';
import { useEffect, useRef, useState, type ReactNode } from 'react';

export interface TextEdit {
  /** What stands in the field. */
  text: string;
  type: (text: string) => void;
  /** Why it was not saved, in words. */
  fault: ReactNode;
  /** Saves what was typed; true when nothing is left to save. Leaving the field never overwrites what was changed elsewhere, asking does. */
  commit: (how: 'left' | 'asked') => Promise<boolean>;
  /** Forgets what was typed. */
  drop: () => void;
}

/**
 * A text that is edited and saved, while another tab may change it. Untouched, it follows; typed over, it stays as typed and whoever saves
 * later is told what stands there now before anything is overwritten.
 */
export function useTextEdit(value: string, save: (text: string) => Promise<unknown>): TextEdit {
  const [text, type] = useState(value);
  const [message, setMessage] = useState<string>();
  /** What the person was told that another tab wrote meanwhile. */
  const [clash, setClash] = useState<string | null>(null);
  /** What stood there when it was last read into the field. */
  const base = useRef(value);
  const saving = useRef(false);
  const show = (next: string) => {
    base.current = next;
    setClash(null);
    type(next);
    setMessage(undefined);
  };
  useEffect(() => {
    if (base.current === value) return;
    // Untouched, or just saved by the field itself: it follows. Else whoever types is told at once.
    if (text === base.current || text === value) show(value);
    else setClash(value);
  }, [value, text]);
  const commit = async (how: 'left' | 'asked'): Promise<boolean> => {
    if (saving.current) return false;
    if (text === base.current || text === value) {
      show(value);
      return true;
    }
    if (base.current !== value && !(how === 'asked' && clash === value)) {
      setClash(value);
      return false;
    }
    return write();
  };
  const write = async (): Promise<boolean> => {
    saving.current = true;
    try {
      await save(text);
      base.current = text;
      setClash(null);
      setMessage(undefined);
      return true;
    } catch (thrown) {
      setClash(null);
      setMessage(wordsOf(thrown));
      return false;
    } finally {
      saving.current = false;
    }
  };
  const fault = clash === null ? message : <Clash now={clash} keep={() => void write()} take={() => show(value)} />;
  return { text, type, fault, commit, drop: () => show(value) };
}

/** Says what another tab wrote into a field meanwhile, and asks which stays. */
function Clash({ now, keep, take }: { now: string; keep: () => void; take: () => void }) {
  const press = 'rounded-sm text-time underline underline-offset-4';
  return (
    <span className="block">
      Changed elsewhere meanwhile: {now.trim() ? `“${now.slice(0, 120)}”` : 'it is empty now'}.{' '}
      <button type="button" className={press} onMouseDown={(event) => event.preventDefault()} onClick={keep}>
        Save mine over it
      </button>{' '}
      or{' '}
      <button type="button" className={press} onMouseDown={(event) => event.preventDefault()} onClick={take}>
        take that
      </button>
    </span>
  );
}
