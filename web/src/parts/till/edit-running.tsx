import type { Pricer } from '@half-penny/core/billing';
import { momentOn } from '@half-penny/core/entries';
import { Fault, type Member, type Timer } from '@half-penny/core/model';
import { dayOf, minuteOf, readClock, readLength, showMinute } from '@half-penny/core/time';
import { useChanges } from '../../data/session';
import { useAppSelector } from '../../state/store';
import { Button } from '../button';
import { SavedField } from '../field';
import { JobPicker } from '../job-picker';
import { SavedSelect } from '../select';
import { serviceOf, serviceOptions, valueOfService } from '../services';
import { StageChoice } from '../stage-choice';

/** What can be changed of a timer while it runs. */
export default function EditRunning({ timer, pricer, member }: { timer: Timer; pricer: Pricer; member: Member }) {
  const { run, attempt } = useChanges();
  const now = useAppSelector((state) => state.clock.now);
  const setStart = (text: string) => {
    const ago = /^(.+?) ago$/i.exec(text.trim());
    if (ago) return run('timer.edit', { id: timer.id, startedAt: now - readLength(ago[1]!).seconds * 1000 });
    const minute = readClock(text);
    if (minute === null)
      throw new Fault(
        'not-a-time',
        `“${text.slice(0, 20)}” is not a time of day. Write 09:15 or 12 min ago.`,
        'startedAt',
      );
    const day = dayOf(timer.startedAt, member.zone);
    return run('timer.edit', { id: timer.id, startedAt: momentOn(day, minute, member.zone) });
  };
  return (
    <>
      <SavedField label="Note" value={timer.note} save={(note) => run('timer.edit', { id: timer.id, note })} />
      <div>
        <div className="mb-1 text-xs font-semibold text-soft">Job</div>
        <JobPicker
          boxed
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
