import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { runInNewContext } from 'node:vm';
import { describe, expect, it } from 'vitest';

// Examples in the comments of core say what a function answers: each is asked here, so that none of them goes stale.

const root = fileURLToPath(new URL('..', import.meta.url));

interface Example {
  asked: string;
  /** As it is written: a literal, or the first digits of a number and "…". */
  answer: string;
}

/** What stands after "@example", up to the next tag or the end of the comment. */
const EXAMPLES = /@example\s([\s\S]*?)(?=\n\s*\*\s*@|\*\/)/g;

function examplesIn(text: string): Example[] {
  return [...text.matchAll(EXAMPLES)].map(([, found]) => {
    const written = `\n${found!}`.replaceAll(/\n\s*\*?\s?/g, ' ').trim();
    const [asked, answer, ...more] = written.split('// → ');
    if (answer === undefined || more.length > 0)
      throw new Error(`Write an example as “call() // → answer”: ${written.slice(0, 100)}`);
    return { asked: asked!.trim(), answer: answer.trim() };
  });
}

const files = readdirSync(`${root}/core/src`, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
  .map((file) => `core/src/${file}`)
  .map((file) => ({ file, examples: examplesIn(readFileSync(`${root}/${file}`, 'utf8')) }))
  .filter(({ examples }) => examples.length > 0);

describe.each(files)('$file', ({ file, examples }) => {
  it.each(examples)('$asked is $answer', async ({ asked, answer }) => {
    const names = (await import(`${root}/${file}`)) as Record<string, unknown>;
    const found: unknown = runInNewContext(`(${asked})`, { ...names });
    if (answer.endsWith('…')) expect(String(found)).toMatch(new RegExp(`^${answer.slice(0, -1).replace('.', '\\.')}`));
    // Objects of another context are told apart by what is in them.
    else expect(JSON.stringify(found)).toBe(JSON.stringify(runInNewContext(`(${answer})`)));
  });
});

it('finds examples at all', () => {
  expect(files.length).toBeGreaterThan(10);
});
