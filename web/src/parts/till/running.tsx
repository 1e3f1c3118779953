import { useRead } from '../../data/read';
import { Floating } from '../floating';
import { jobName, type Pricer } from '@half-penny/core/billing';
import { momentOn, runningSeconds } from '@half-penny/core/entries';
import { Fault, type Member, type Timer } from '@half-penny/core/model';
import { dayOf, minuteOf, readClock, readLength, showClockLength, showLength, showMinute } from '@half-penny/core/time';
import { Popover } from 'radix-ui';
import { useChanges } from '../../data/session';
import { useAppSelector } from '../../state/store';
import { Button } from '../button';
import { SavedField } from '../field';
import { SavedSelect } from '../select';
import { JobPicker } from '../job-picker';
import { serviceOf, serviceOptions, valueOfService } from '../services';
import { StageChoice } from '../stage-choice';

/** The clock and what it runs on; pressing it opens what can be changed while it runs. */
export function Running({ timer, pricer, member }: { timer: Timer; pricer: Pricer; member: Member }) {
  const now = useAppSelector((state) => state.clock.now);
  const seconds = runningSeconds(timer, now);
  const job = jobName(pricer, timer.projectId, timer.unlisted);
  const note = timer.note.trim();
  return (
    <>
      <span
        className="font-mono text-[21px] font-semibold"
        role="timer"
        aria-label={`Running for ${showLength(seconds)}`}
      >
        {showClockLength(seconds)}
      </span>
      <Popover.Root>
        <Popover.Trigger
          className="max-w-[230px] min-w-0 flex-1 text-left md:flex-none"
          aria-label={`Running: ${(note || job).slice(0, 80)}. Change`}
        >
          <span className="block truncate" dir="auto">
            {note || pricer.project.get(timer.projectId ?? '')?.name || job}
          </span>
          <span className="block truncate text-sm text-till-soft">
            {note ? job : pricer.clientOf(timer.projectId)?.name}
            {timer.entryId !== null && <GoneOnWith timer={timer} />}
          </span>
        </Popover.Trigger>
        <Floating
          label="What is running"
          className="flex w-80 flex-col gap-3 p-4"
          side="top"
          align="start"
          sideOffset={14}
        >
          <EditRunning {...{ timer, pricer, member }} />
        </Floating>
      </Popover.Root>
    </>
  );
}

/** What the entry had before the timer went on with it. */
function GoneOnWith({ timer }: { timer: Timer }) {
  const entry = useRead((reader) => reader.get('entries', timer.entryId!), [timer.entryId]);
  return entry ? ` · continues, ${showLength(entry.seconds)} so far` : null;
}

function EditRunning({ timer, pricer, member }: { timer: Timer; pricer: Pricer; member: Member }) {
  const { run, attempt } = useChanges();
  const now = useAppSelector((state) => state.clock.now);
  const setStart = (text: string) => {
    const ago = /^(.+?) ago$/i.exec(text.trim());
    if (ago) return run('timer.edit', { id: timer.id, startedAt: now - readLength(ago[1]!).seconds * 1000 });
    const minute = readClock(text);
    if (minute === null)
      throw new Fault(`“${text.slice(0, 20)}” is not a time of day. Write 09:15 or 12 min ago.`, 'startedAt');
    const day = dayOf(timer.startedAt, member.zone);
    return run('timer.edit', { id: timer.id, startedAt: momentOn(day, minute, member.zone) });
  };
  return (
    <>
      <SavedField label="Note" value={timer.note} save={(note) => run('timer.edit', { id: timer.id, note })} />
      <div>
        <div className="mb-1 text-xs font-semibold text-soft">Job</div>
        <JobPicker
          pricer={pricer}
          label="Job"
          value={timer}
          onPick={(job) => void attempt('timer.edit', { id: timer.id, ...job })}
        />
      </div>
      <StageChoice pricer={pricer} job={timer} />
      <SavedSelect
        label="Service"
        value={valueOfService(timer)}
        save={(value) => run('timer.edit', { id: timer.id, ...serviceOf(value) })}
        options={serviceOptions(pricer, member, timer.projectId, timer)}
      />
      <SavedField
        label="Started at"
        hint="A time of day, or “12 min ago”"
        value={showMinute(minuteOf(timer.startedAt, member.zone))}
        save={async (text) => setStart(text)}
      />
      <div className="flex justify-end">
        <Button kind="fault" onClick={() => void attempt('timer.discard', { id: timer.id })}>
          Discard this time
        </Button>
      </div>
    </>
  );
}
