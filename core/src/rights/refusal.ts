import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Limit, Member, Right } from '../model/records';
import type { Rights } from './rights';
import { rightWords } from './words';

/** What is said where somebody has not got a right at all, or not for this work. */
export async function refusal(reader: Reader, member: Member, rights: Rights, right: Right): Promise<Fault> {
  const only = rights.limitOf(right);
  const set = rights.set?.name ?? '';
  const what = only
    ? `${member.name} may ${rightWords[right]} only for ${await namesOf(reader, only)}`
    : `${member.name} may not ${rightWords[right]}`;
  const message = `${what}: that is how the rights “${set}” are set under Setup → People. Nothing was changed.`;
  return new Fault('no-right', message, '', { right, memberId: member.id });
}

async function namesOf(reader: Reader, only: Limit): Promise<string> {
  const clients = await reader.many('clients', only.clientIds);
  const projects = await reader.many('projects', only.projectIds);
  const names = [...clients, ...projects].flatMap((row) => row?.name ?? []);
  if (names.length === 0) return 'work that is not there any more';
  if (names.length > 3) return `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;
  return names.length === 1 ? names[0]! : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}
