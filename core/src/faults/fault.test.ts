import { describe, expect, it } from 'vitest';
import { Fault, faultsIn, messageOf, needText, readAll } from './fault';

const thrownBy = (task: () => unknown): unknown => {
  try {
    task();
  } catch (thrown) {
    return thrown;
  }
  throw new Error('Nothing was thrown.');
};

describe('reading a form', () => {
  it('gives every value, or says all that is wrong at once, the first one first', () => {
    expect(readAll({ name: () => needText(' Maud ', 'Write a name.'), hours: () => 2 })).toEqual({
      name: 'Maud',
      hours: 2,
    });
    const thrown = thrownBy(() =>
      readAll({
        name: () => needText(' ', 'Write a name.'),
        hours: () => 2,
        rate: () => {
          throw new Fault('not-a-number', 'This is not a rate.', 'price');
        },
      }),
    );
    expect([messageOf(thrown), (thrown as Fault).path]).toEqual(['Write a name.', 'name']);
    expect(faultsIn(thrown)).toEqual([
      { path: 'name', code: 'empty', message: 'Write a name.' },
      { path: 'rate', code: 'not-a-number', message: 'This is not a rate.' },
    ]);
  });
});

it('anything that is thrown has one fault at least', () => {
  expect(faultsIn(new Fault('invalid', 'No.', 'lines/3'))).toEqual([
    { path: 'lines/3', code: 'invalid', message: 'No.' },
  ]);
  expect(faultsIn(new Error('Broken'))).toEqual([{ path: '', code: 'invalid', message: 'Broken' }]);
  expect(faultsIn('odd')).toEqual([{ path: '', code: 'invalid', message: 'odd' }]);
});
