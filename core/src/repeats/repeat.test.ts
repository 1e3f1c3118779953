import { describe, expect, it } from 'vitest';
import { idPattern } from '../model/ids';
import { fault } from '../testing/fault';
import { ledger } from '../testing/ledger';
import { DAY, work } from '../testing/studio';
import { draftIdOf, nextDay, occurrences, readRule, usualRules } from '.';

describe('days by a rule', () => {
  // The examples of RFC 5545, 3.8.5.3 that come by days, from memory: "every other week", "the last day of the month", "Friday the 13th".
  it.each([
    ['FREQ=WEEKLY;INTERVAL=2', '1997-09-02', '1997-10-01', ['1997-09-02', '1997-09-16', '1997-09-30']],
    [
      'FREQ=MONTHLY;BYMONTHDAY=-1',
      '1997-09-30',
      '1997-12-31',
      ['1997-09-30', '1997-10-31', '1997-11-30', '1997-12-31'],
    ],
    ['FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', '1997-09-02', '1998-12-31', ['1998-02-13', '1998-03-13', '1998-11-13']],
    ['FREQ=YEARLY;COUNT=2', '2024-02-29', '2032-12-31', ['2024-02-29', '2028-02-29']],
  ])('%s', (rule, from, to, days) => expect(occurrences({ rule, from, until: null }, to)).toEqual(days));

  it('end where the agreement does, and can be read', () => {
    expect(occurrences({ rule: 'FREQ=MONTHLY', from: '2026-01-15', until: '2026-02-28' }, '2026-12-31')).toHaveLength(
      2,
    );
    for (const [rule] of usualRules) expect(() => readRule(rule)).not.toThrow();
    expect(() => readRule('every month')).toThrow(fault('unreadable', 'rule'));
    expect(() => readRule('FREQ=SECONDLY')).toThrow(fault('unreadable', 'rule'));
  });

  it('give a draft an id of agreement and day alone', () => {
    const id = '01a1cfaa-35a2-7000-9e89-7a26c300fda9';
    expect(draftIdOf(id, DAY)).toMatch(idPattern);
    expect(draftIdOf(id, DAY)).toBe(draftIdOf(id, DAY));
    expect(
      new Set([draftIdOf(id, DAY), draftIdOf(id, '2026-11-13'), draftIdOf(id.replace('a9', 'a8'), DAY)]).size,
    ).toBe(3);
  });
});

describe('a recurring invoice', () => {
  it('is prepared on its days, once, though it is discarded, and not while it is paused', async () => {
    const { run, store, at, hand } = await ledger();
    const lines = [hand('120')];
    const agreed = { clientId: at.playhouse, name: 'Care of the rig', kind: 'sums' as const, lines };
    await run('repeat.add', { ...agreed, rule: 'FREQ=MONTHLY;BYMONTHDAY=1', from: '2026-10-01' });
    const [repeat] = store.rows('repeats');
    expect(nextDay(repeat!, DAY)).toBe('2026-12-01');
    await run('repeat.prepare', {});
    const drafts = () => store.rows('invoices').filter((row) => row.frozen === null);
    expect(
      drafts()
        .map((row) => row.id)
        .sort(),
    ).toEqual(['2026-10-01', '2026-11-01'].map((day) => draftIdOf(repeat!.id, day)).sort());
    expect(drafts()[0]!.byHand).toEqual(lines);
    await expect(run('repeat.prepare', {})).rejects.toThrow(fault('nothing-left'));
    await run('invoice.discard', { id: drafts()[0]!.id });
    await expect(run('repeat.prepare', {})).rejects.toThrow(fault('nothing-left'));
    await run('repeat.edit', { id: repeat!.id, rule: 'FREQ=MONTHLY;BYMONTHDAY=5', paused: true });
    await expect(run('repeat.prepare', {})).rejects.toThrow(fault('nothing-left'));
  });

  it('of what was worked takes all that is to bill up to its day, once', async () => {
    const { run, store, at, added } = await ledger();
    const early = await added('entry.add', work(at.rig, 3600, { day: '2026-10-20' }));
    await run('entry.add', work(at.rig, 3600, { day: '2026-11-05' }));
    await run('entry.add', work(at.gallery, 3600, { day: '2026-10-20' }));
    await run('repeat.add', {
      clientId: at.playhouse,
      name: 'By the month',
      kind: 'worked',
      rule: 'FREQ=MONTHLY;BYMONTHDAY=-1',
      from: '2026-08-01',
    });
    await run('repeat.prepare', {});
    const drafts = store.rows('invoices').filter((row) => row.frozen === null);
    expect(drafts).toHaveLength(1);
    expect(store.rows('allocations').map((row) => row.entryId)).toEqual([early]);
    expect(store.rows('repeats')[0]!.prepared).toEqual(['2026-08-31', '2026-09-30', '2026-10-31']);
  });

  it('is refused without sums, with a rule that there is not, and for nobody', async () => {
    const { run, at, hand } = await ledger();
    const agreed = { clientId: at.playhouse, name: 'Care', kind: 'sums' as const, from: DAY, rule: 'FREQ=MONTHLY' };
    await expect(run('repeat.add', agreed)).rejects.toThrow(fault('invalid', 'lines'));
    await expect(run('repeat.add', { ...agreed, lines: [hand('1')], rule: 'monthly' })).rejects.toThrow(
      fault('unreadable'),
    );
  });
});
