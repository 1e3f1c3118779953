import { describe, expect, it } from 'vitest';
import { desks, proposalQuality } from './proposals';

// Weeks that were not looked at while anything was chosen; two of each desk, so somewhat below what the bench reports of five.
describe.each(Object.entries(desks))('offers at the desk of %s', (_, desk) => {
  it('are right, few and as sure as they are right', () => {
    const quality = proposalQuality(desk, { seeds: 2, first: 7000 });
    expect(quality.time).toBeGreaterThan(0.9);
    expect(quality.rows).toBeGreaterThan(0.88);
    expect(quality.calibration).toBeLessThan(0.06);
    expect(quality.perSpell).toBeLessThan(1.7);
    expect(quality.mixed).toBeLessThan(0.06);
    expect(quality.presses).toBeLessThan(25);
  });
});
