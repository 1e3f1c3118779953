import type { Pricer } from '@half-penny/core/billing';
import { noJob } from '@half-penny/core/entries';
import { useLayoutEffect, useRef, useState } from 'react';
import { barLook } from '../../parts/bar';
import { Button } from '../../parts/button';
import { JobPicker } from '../../parts/job-picker';
import { showKey, type KeyName } from '../../parts/keys';
import type { Acts, StretchLine } from './acts';
import { HandOver } from './hand-over';

interface SelectionBarProps {
  pricer: Pricer;
  acts: Acts;
  count: number;
  /** Where the row stands that was ticked last, among the lines. */
  at: number;
  doing: (act: (chosen: StretchLine[]) => unknown) => () => void;
  onSplit: () => void;
  onSentence: () => void;
  onDelete: () => void;
}

/** Beside the box by which the next row is ticked, which stays free. */
const atRowLook =
  'md:absolute md:bottom-auto md:right-0 md:left-9 md:mx-0 md:mt-0 md:rounded-md md:border md:border-strong md:px-3 md:shadow-lg';

/** What can be done with what is ticked, right below the row that was ticked last; on a phone over the Till. */
export function SelectionBar({ pricer, acts, count, at, doing, onSplit, onSentence, onDelete }: SelectionBarProps) {
  const bar = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState<number | null>(null);
  useLayoutEffect(() => {
    const room = bar.current?.parentElement;
    const row = room?.querySelector(`[data-place^="${at}:"]`)?.closest('[role=row]');
    if (!room || !row) return setTop(null);
    setTop(Math.round(row.getBoundingClientRect().bottom - room.getBoundingClientRect().top));
  }, [at, count]);
  return (
    <div
      ref={bar}
      role="group"
      aria-label="With what is selected"
      className={`${barLook} ${top === null ? '' : atRowLook}`}
      style={top === null ? undefined : { top }}
    >
      <span className="text-soft">{count === 1 ? '1 selected' : `${count} selected`}</span>
      <JobPicker
        pricer={pricer}
        value={noJob}
        label="Job of what is selected"
        onPick={(job) => doing((all) => acts.place(all, job))()}
        className="text-time"
      >
        Place on…
      </JobPicker>
      <Act label="Place as offered" keyName="sift.place" act={doing(acts.accept)} />
      <Button kind="quiet" onClick={onSentence}>
        Sentence…
      </Button>
      <Act label="Join" keyName="sift.join" act={doing(acts.join)} />
      <Act label="Split…" keyName="sift.split" act={onSplit} />
      <Act label="Private" keyName="sift.private" act={doing(acts.keepPrivate)} />
      <Act label="Not work" keyName="sift.notWork" act={doing(acts.notWork)} />
      <Act label="Open again" keyName="sift.reopen" act={doing(acts.forget)} />
      <HandOver onGive={(id, name) => doing((all) => acts.give(all, id, name))()} />
      <Act label="Delete…" keyName="sift.delete" act={onDelete} />
    </div>
  );
}

const Act = ({ label, keyName, act }: { label: string; keyName: KeyName; act: () => void }) => (
  <Button kind="quiet" shortcut={showKey(keyName)} onClick={() => act()}>
    {label}
  </Button>
);
