import type { Pricer } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import type { Option } from './select';

/** A member, a role, or anybody. */
export interface RateSubject {
  memberId: Id | null;
  role: string | null;
}

/** The value that stands for somebody in a list. */
export const rateSubjectValue = ({ memberId, role }: RateSubject): string =>
  memberId !== null ? `member/${memberId}` : role !== null ? `role/${role}` : '';

/** Who a value stands for. */
export function rateSubjectFields(value: string): RateSubject {
  const [kind, name = ''] = value.split(/\/(.*)/s);
  return { memberId: kind === 'member' ? name : null, role: kind === 'role' ? name : null };
}

/** Anybody, every role that somebody has, every member. */
export function rateSubjectOptions(pricer: Pricer, anybody: string): Option[] {
  const { members } = pricer.book;
  const roles = [...new Set(members.map((member) => member.role).filter(Boolean))];
  return [
    ['', anybody],
    ...roles.map((role): Option => [`role/${role}`, `Role: ${role}`]),
    ...members.map((member): Option => [`member/${member.id}`, member.name]),
  ];
}
