import { showLength } from '@half-penny/core/time';
import { useState } from 'react';
import { Button } from '../../parts/button';
import { CheckBox } from '../../parts/check';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';
import type { Acts, StretchLine } from './acts';

export function SplitDialog({ line, acts, onClose }: { line: StretchLine; acts: Acts; onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const { fault, submit } = useSubmit(async () => {
    await acts.split(line, typed);
    onClose();
  });
  return (
    <Dialog open onClose={onClose} title={`Split “${line.row.note.slice(0, 60) || 'the stretch'}”`}>
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label="At"
          autoFocus
          placeholder="10:30"
          value={typed}
          fault={fault}
          onChange={(event) => setTyped(event.target.value)}
        />
        <Button type="submit" kind="main" className="self-start">
          Split it
        </Button>
      </form>
    </Dialog>
  );
}

interface SeveralProps {
  lines: readonly StretchLine[];
  acts: Acts;
  onClose: () => void;
}

/** One sentence for several stretches, which stay apart. */
export function SentenceDialog({ lines, acts, onClose }: SeveralProps) {
  const [typed, setTyped] = useState(lines[0]?.row.note ?? '');
  const { fault, submit } = useSubmit(async () => {
    await acts.noteAll(lines, typed);
    onClose();
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={lines.length === 1 ? 'Sentence for the client' : `One sentence for ${lines.length} stretches`}
      about="They stay apart; each is posted with it. Nothing else of what was seen goes into the entry."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label="Sentence"
          autoFocus
          value={typed}
          fault={fault}
          onChange={(event) => setTyped(event.target.value)}
        />
        <Button type="submit" kind="main" className="self-start">
          Keep it
        </Button>
      </form>
    </Dialog>
  );
}

/** What of some stretches is deleted from the trail: everything of their times, or some programs and sites alone. */
export function DeleteDialog({ lines, acts, onClose }: SeveralProps) {
  const [programs, setPrograms] = useState<ReadonlySet<string>>(new Set());
  const [sites, setSites] = useState<ReadonlySet<string>>(new Set());
  const seen = lines.reduce((sum, { row }) => sum + row.stretch.seen, 0);
  const isSome = programs.size + sites.size > 0;
  const { fault, submit } = useSubmit(async () => {
    await acts.deleteFrom(lines, isSome ? { programs: [...programs], sites: [...sites] } : null);
    onClose();
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title="Delete from the trail"
      about="What was noticed goes for good, from here and from the trail’s sealed copy; entries that were posted stay. This cannot be undone."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <p>
          {isSome ? 'Only what is ticked, of ' : 'Everything that was seen in '}
          <b>{showLength(Math.round(seen / 1000))}</b> of{' '}
          {lines.length === 1 ? '1 stretch' : `${lines.length} stretches`}.
        </p>
        <Ticks label="Programs" all={namesOf(lines, 'program')} ticked={programs} onChange={setPrograms} />
        <Ticks label="Sites" all={namesOf(lines, 'site')} ticked={sites} onChange={setSites} />
        {fault && (
          <p role="alert" className="text-fault">
            {fault}
          </p>
        )}
        <Button type="submit" kind="fault" className="self-start">
          {isSome ? 'Delete what is ticked' : 'Delete everything of it'}
        </Button>
      </form>
    </Dialog>
  );
}

const MOST = 12;

/** What was in front in stretches, the longest first. */
function namesOf(lines: readonly StretchLine[], of: 'program' | 'site'): string[] {
  const times = new Map<string, number>();
  for (const { subject, seen } of lines.flatMap(({ row }) => row.stretch.evidence))
    if (subject[of]) times.set(subject[of], (times.get(subject[of]) ?? 0) + seen);
  return [...times]
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST)
    .map(([name]) => name);
}

function Ticks({
  label,
  all,
  ticked,
  onChange,
}: {
  label: string;
  all: readonly string[];
  ticked: ReadonlySet<string>;
  onChange: (ticked: ReadonlySet<string>) => void;
}) {
  if (all.length === 0) return null;
  return (
    <fieldset>
      <legend className="mb-1 text-xs font-semibold text-soft">{label}: only these</legend>
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        {all.map((name) => (
          <label key={name} className="flex items-center gap-2">
            <CheckBox
              checked={ticked.has(name)}
              onChange={(on) => onChange(new Set(on ? [...ticked, name] : [...ticked].filter((each) => each !== name)))}
            />
            <span className="written">{name}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
