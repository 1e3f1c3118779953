import { describe, expect, it } from 'vitest';
import type { Member } from '../model/records';
import { missingInWords, jobChoiceOf, missingFields, withJobChoice } from './required-fields';

const nothing = { projectId: null, unlisted: '', serviceId: null, note: ' ' };

describe('what a member has to say of time', () => {
  it('is what is asked and not there yet', () => {
    const asked: Member['asked'] = ['job', 'service', 'note'];
    expect(missingInWords(missingFields({ asked }, nothing))).toBe('a job and a service and a note');
    expect(
      missingFields({ asked }, { projectId: null, unlisted: 'Hadley Hall', serviceId: 's', note: 'Plot' }),
    ).toEqual([]);
    expect(missingFields({ asked: [] }, nothing)).toEqual([]);
  });
});

describe('choosing a job', () => {
  type Choosing = Pick<Member, 'asked' | 'form'>;
  const member: Choosing = { asked: ['note'], form: ['note', 'job', 'length'] };

  it('is off, offered or required, and changes nothing else', () => {
    expect(jobChoiceOf(member)).toBe('offered');
    const required = withJobChoice(member, 'required');
    expect(required).toEqual({ asked: ['job', 'note'], form: ['note', 'job', 'length'] });
    expect(jobChoiceOf(required)).toBe('required');
    expect(withJobChoice(required, 'offered')).toEqual(member);
    expect(withJobChoice(required, 'off')).toEqual({ asked: ['note'], form: ['note', 'length'] });
    expect(withJobChoice({ asked: [], form: ['length'] }, 'offered').form).toEqual(['length', 'job']);
  });

  it('never leaves a form without a field', () => {
    const only: Choosing = { asked: [], form: ['job'] };
    expect(withJobChoice(only, 'off')).toEqual({ asked: [], form: ['length'] });
  });
});
