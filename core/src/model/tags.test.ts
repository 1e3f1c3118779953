import { describe, expect, it } from 'vitest';
import { readTags, tags } from './read-tags';
import { joinTags, showTags, withoutTags } from './tags';

describe('tags', () => {
  it('are read from what was typed, once each and in order', () => {
    expect(readTags(' site visit, #urgent ;Urgent,, site  visit\nday 10, day 9')).toEqual([
      'day 9',
      'day 10',
      'site visit',
      'urgent',
    ]);
    expect(readTags(' , ')).toEqual([]);
  });

  it('are typed as they are shown', () => {
    const list = readTags('überstunden, "quoted", =1+1');
    expect(readTags(showTags(list))).toEqual(list);
  });

  it('say what is wrong with them', () => {
    expect(() => readTags('x'.repeat(61))).toThrow('A tag has at most 60 characters.');
    expect(() => readTags(Array.from({ length: 21 }, (_, index) => `t${index}`).join())).toThrow('at most 20 tags');
    expect(tags.safeParse(['a, b']).error?.issues[0]?.message).toBe(
      '“a, b” is not one tag: commas stand between tags.',
    );
    expect(tags.safeParse(['Urgent', 'urgent']).error?.issues[0]?.message).toBe('A tag is given only once.');
    expect(tags.safeParse(undefined).success).toBe(true);
  });

  it('come together and go whatever their capitals', () => {
    expect(joinTags(['Urgent', 'rig'], ['urgent', 'Fee'])).toEqual(['Fee', 'rig', 'Urgent']);
    expect(withoutTags(['Fee', 'rig', 'Urgent'], ['URGENT', 'fee'])).toEqual(['rig']);
  });
});
