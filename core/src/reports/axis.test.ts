import { describe, expect, it } from 'vitest';
import { axisOf } from './axis';

const marks = (...args: Parameters<typeof axisOf>) => {
  const { ticks, show } = axisOf(...args);
  return ticks.map(show);
};

describe('axisOf', () => {
  it('has steps of one, two or five that hold the largest value', () => {
    expect(marks([295 * 3600, 226 * 3600], 'length', 'GBP', 'h:mm')).toEqual(['0:00', '100:00', '200:00', '300:00']);
    expect(marks([38_832_13], 'money', 'GBP', 'h:mm')).toEqual(['0', '10,000', '20,000', '30,000', '40,000']);
    expect(marks([9_830], 'percent', 'GBP', 'h:mm')).toEqual(['0 %', '50 %', '100 %']);
    expect(marks([3], 'count', 'GBP', 'h:mm')).toEqual(['0', '1', '2', '3']);
  });

  it('goes below nothing where a value does', () => {
    expect(marks([-1500_00, 2600_00], 'money', 'GBP', 'h:mm')).toEqual(['−2,000', '0', '2,000', '4,000']);
  });

  it('small values have smaller steps, in whole seconds and minor units', () => {
    expect(marks([20 * 60], 'length', 'GBP', 'h:mm')).toEqual(['0:00', '0:06', '0:12', '0:18', '0:24']);
    expect(marks([20 * 60], 'length', 'GBP', 'decimal')).toEqual(['0.0', '0.1', '0.2', '0.3', '0.4']);
    expect(marks([85], 'money', 'GBP', 'h:mm')).toEqual(['0.0', '0.5', '1.0']);
  });

  it('a currency without minor units has whole marks; one with three is not mistaken for another', () => {
    expect(marks([41_000], 'money', 'JPY', 'h:mm')).toEqual(['0', '20,000', '40,000', '60,000']);
    expect(marks([41_000], 'money', 'KWD', 'h:mm')).toEqual(['0', '20', '40', '60']);
  });

  it('nothing has an axis all the same', () => {
    expect(marks([], 'length', 'GBP', 'h:mm')).toEqual(['0:00', '1:00']);
    expect(marks([0, 0], 'money', 'GBP', 'h:mm')).toEqual(['0', '1']);
  });
});
