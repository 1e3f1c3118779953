import { missingInWords, missingFields, type FilledFields } from '../entries/required-fields';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { entrySchema, type Member } from '../model/records';
import type { CommandContext } from '../engine/command';

// What every command that records time shares.

/** What time is on, as commands take it. */
export const jobInput = {
  projectId: fields.id.nullable(),
  unlisted: entrySchema.shape.unlisted.optional(),
  taskId: fields.id.nullable().optional(),
  serviceId: fields.id.nullable(),
  kindOfWorkId: fields.id.nullable().optional(),
  note: fields.text,
};

interface JobFields {
  projectId: Id | null;
  unlisted: string;
  taskId: Id | null;
}

type Given<T> = { [K in keyof T]?: T[K] | undefined };

/**
 * The job fields after a change: a project takes the place of a job in words, and the other way round; a task stays only on its own
 * project.
 */
export function jobAfter(
  input: Given<JobFields>,
  before: JobFields = { projectId: null, unlisted: '', taskId: null },
): JobFields {
  const unlisted = input.unlisted?.trim();
  if (unlisted) return { projectId: null, unlisted, taskId: null };
  const projectId = input.projectId === undefined ? before.projectId : input.projectId;
  const taskId = input.taskId === undefined ? (projectId === before.projectId ? before.taskId : null) : input.taskId;
  if (projectId && input.projectId !== undefined) return { projectId, unlisted: '', taskId };
  return {
    projectId,
    unlisted: unlisted ?? (input.projectId === undefined ? before.unlisted : ''),
    taskId: projectId === null ? null : taskId,
  };
}

interface ServiceFields {
  serviceId: Id | null;
  kindOfWorkId: Id | null;
}

/** The service after a change; a kind of work stays only with its own service. */
export function serviceAfter(
  input: Given<ServiceFields>,
  before: ServiceFields = { serviceId: null, kindOfWorkId: null },
): ServiceFields {
  const serviceId = input.serviceId === undefined ? before.serviceId : input.serviceId;
  const kept = serviceId === before.serviceId ? before.kindOfWorkId : null;
  return { serviceId, kindOfWorkId: input.kindOfWorkId === undefined ? kept : input.kindOfWorkId };
}

/**
 * Whoever gives a command.
 *
 * @throws Fault where nobody is at work in this workspace
 */
export function whoIsWorking({ memberId }: CommandContext): Id {
  if (memberId === null)
    throw new Fault('nobody-chosen', 'Say in Setup → People who is working in this browser.', 'memberId');
  return memberId;
}

/** Clocks of two tabs may differ by a moment; more than that is a mistake. */
const TOLERANCE = 2000;

/** @throws Fault where a moment is later than now */
export function refuseFuture(at: number, now: number): void {
  if (at > now + TOLERANCE)
    throw new Fault('in-the-future', 'A timer cannot start or stop in the future.', 'startedAt');
}

/** @throws Fault where the member has said that a timer must not start without something that is missing */
export function refuseLacking(member: Member, work: FilledFields): void {
  const lacking = missingFields(member, work);
  if (lacking.length === 0) return;
  const path = { job: 'projectId', service: 'serviceId', note: 'note' }[lacking[0]!];
  throw new Fault(
    'lacking',
    `Say ${missingInWords(lacking)} first: Setup asks it of ${member.name} before a timer starts.`,
    path,
  );
}
