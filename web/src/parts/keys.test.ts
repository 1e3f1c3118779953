import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { keyWords } from './key-words';
import { keyTable, type KeyName } from './keys';

const sources = readdirSync('web/src', { recursive: true, encoding: 'utf8' })
  .filter((name) => /\.tsx?$/.test(name) && !/\.test\.|parts[/\\]key(s|-words)\.ts$/.test(name))
  .map((name) => ({ name, text: readFileSync(`web/src/${name}`, 'utf8') }));

describe('the table of keys', () => {
  it('binds every key that it lists', () => {
    const all = sources.map(({ text }) => text).join('\n');
    const unbound = Object.keys(keyTable).filter((name) => !all.includes(`'${name}'`) && !all.includes(` ${name}:`));
    // Copying is the browser's own: it is answered, not bound.
    expect(unbound).toEqual(['week.copy']);
    expect(all).toContain('onCopy={');
  });

  it('is the only place where keys are bound', () => {
    const elsewhere = sources.filter(({ text }) => /from 'tinykeys'|\.key === '|\.code === '/.test(text));
    expect(elsewhere.map(({ name }) => name)).toEqual([]);
  });

  it('gives one place no press twice', () => {
    const seen = (Object.keys(keyTable) as KeyName[]).flatMap((name) =>
      keyTable[name].map((press) => `${keyWords[name][0]}: ${press}`),
    );
    expect(seen.filter((each, index) => seen.indexOf(each) !== index)).toEqual([]);
  });
});
