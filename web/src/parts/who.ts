import type { Pricer } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import type { Option } from './select';

/** A member, a role, or anybody. */
export interface Who {
  memberId: Id | null;
  role: string | null;
}

/** The value that stands for somebody in a list. */
export const whoValue = ({ memberId, role }: Who): string =>
  memberId !== null ? `member/${memberId}` : role !== null ? `role/${role}` : '';

/** Who a value stands for. */
export function whoFields(value: string): Who {
  const [kind, name = ''] = value.split(/\/(.*)/s);
  return { memberId: kind === 'member' ? name : null, role: kind === 'role' ? name : null };
}

/** Anybody, every role that somebody has, every member. */
export function whoOptions(pricer: Pricer, anybody: string): Option[] {
  const { members } = pricer.book;
  const roles = [...new Set(members.map((member) => member.role).filter(Boolean))];
  return [
    ['', anybody],
    ...roles.map((role): Option => [`role/${role}`, `Role: ${role}`]),
    ...members.map((member): Option => [`member/${member.id}`, member.name]),
  ];
}
