import type { Activity } from '@half-penny/core/capture';
import { chmodSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { whoByDialog } from './desk/who';
import { WhoIsHere } from './who-is-here';

const MINUTE = 60_000;
const window = (from: number): Activity => ({ kind: 'window', from, to: from + 1, title: `at ${from}` });
const away = (from: number, minutes: number): Activity => ({ kind: 'away', from, to: from + minutes * MINUTE });

/** A computer whose person answers when the test says so. */
function asked() {
  const answers: ((isMe: boolean | Error) => void)[] = [];
  const kept: Activity[] = [];
  const said: string[] = [];
  const who = new WhoIsHere({
    ask: () =>
      new Promise((resolve, reject) =>
        answers.push((answer) => (answer instanceof Error ? reject(answer) : resolve(answer))),
      ),
    record: (activities) => kept.push(...activities),
    say: (text) => said.push(text),
  });
  const answer = async (isMe: boolean | Error) => {
    answers.shift()!(isMe);
    await new Promise((done) => setImmediate(done));
  };
  return { who, answer, kept, said, asks: () => answers.length };
}

describe('at a computer that several use', () => {
  it('what is noticed waits for the answer, and is the person’s where they say so', async () => {
    const { who, answer, kept } = asked();
    who.record([window(1)]);
    expect(kept).toEqual([]);
    await answer(true);
    who.record([window(2)]);
    expect(kept).toEqual([window(1), window(2)]);
  });

  it('nothing of somebody else is recorded, before the answer or after', async () => {
    const { who, answer, kept, said } = asked();
    who.record([window(1)]);
    await answer(false);
    who.record([window(2)]);
    expect(kept).toEqual([]);
    expect(said).toEqual(['Somebody else is here: nothing is recorded.']);
  });

  it('who comes back after ten minutes is asked again, sooner is not', async () => {
    const { who, answer, kept, asks } = asked();
    await answer(true);
    who.record([away(0, 9), window(10)]);
    expect(asks()).toBe(0);
    who.record([away(20, 10), window(30)]);
    expect(asks()).toBe(1);
    await answer(false);
    who.record([away(40, 30), window(50)]);
    await answer(true);
    expect(kept.map((each) => each.from)).toEqual([0, 10, 20, 50]);
  });

  it('where nobody can be asked nothing is recorded, and it is said', async () => {
    const { who, answer, kept, said } = asked();
    who.record([window(1)]);
    await answer(new Error('Nobody can be asked who is here.'));
    who.record([window(2)]);
    expect([kept, said]).toEqual([[], ['Nobody can be asked who is here. Nothing is recorded.']]);
  });
});

describe('the dialog of a system', () => {
  const before = process.env.PATH;
  afterEach(() => void (process.env.PATH = before));
  const place = mkdtempSync(join(tmpdir(), 'half-penny-who-'));
  const program = (name: string, exit: number) => {
    writeFileSync(join(place, name), `#!/bin/sh\necho "$@" > ${join(place, `${name}.asked`)}\nexit ${exit}\n`);
    chmodSync(join(place, name), 0o755);
  };

  it.each([
    ['linux', 'kdialog'],
    ['darwin', 'osascript'],
    ['win32', 'powershell'],
  ])('of %s is asked through %s', async (platform, name) => {
    process.env.PATH = `${place}${delimiter}/bin`;
    program(name, 0);
    expect(await whoByDialog(platform)()).toBe(true);
    expect(readFileSync(join(place, `${name}.asked`), 'utf8')).toContain('Is it you at this computer?');
    program(name, 1);
    expect(await whoByDialog(platform)()).toBe(false);
  });

  it('that is not there is named', async () => {
    process.env.PATH = mkdtempSync(join(tmpdir(), 'half-penny-none-'));
    await expect(whoByDialog('linux')()).rejects.toThrow('install zenity or kdialog');
  });
});
