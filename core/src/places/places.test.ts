import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Place } from '../model/records';
import { beyond, distance, nearest, showDistance } from '.';

const place = (latitude: number, longitude: number, radius = 100): Place => ({
  id: '01a1cfaa-35a2-7000-9e89-7a26c300fda9',
  name: 'Dock',
  latitude,
  longitude,
  radius,
});
const at = (latitude: number, longitude: number, accuracy = 0) => ({ latitude, longitude, accuracy });
const point = fc.record({
  latitude: fc.double({ min: -90, max: 90, noNaN: true }),
  longitude: fc.double({ min: -180, max: 180, noNaN: true }),
});

describe('distances', () => {
  it('are what a degree is over the mean Earth (IUGG mean radius 6,371,008.8 m)', () => {
    const degree = (2 * Math.PI * 6_371_008.8) / 360;
    expect(distance(at(0, 0), at(0, 1))).toBeCloseTo(degree, 3);
    expect(distance(at(50, 7), at(51, 7))).toBeCloseTo(degree, 3);
    expect(distance(at(60, 0), at(60, 0.001))).toBeCloseTo(degree / 2000, 3);
    expect(distance(at(90, 0), at(-90, 120))).toBeCloseTo(degree * 180, 3);
  });

  it('are what the chord through the Earth says, another way to the same', () => {
    const vector = ({ latitude, longitude }: { latitude: number; longitude: number }) => {
      const [north, east] = [(latitude * Math.PI) / 180, (longitude * Math.PI) / 180];
      return [Math.cos(north) * Math.cos(east), Math.cos(north) * Math.sin(east), Math.sin(north)] as const;
    };
    fc.assert(
      fc.property(point, point, (a, b) => {
        const [p, q] = [vector(a), vector(b)];
        const chord = Math.hypot(...p.map((value, axis) => value - q[axis]!));
        const across = Math.hypot(...p.map((value, axis) => value + q[axis]!));
        const arc = 2 * Math.atan2(chord, across) * 6_371_008.8;
        expect(Math.abs(distance(a, b) - arc)).toBeLessThan(1);
        expect(distance(a, b)).toBe(distance(b, a));
      }),
    );
  });

  it('begin where the place ends, with what the device is unsure of in the person’s favour', () => {
    const north = at(0.01, 0);
    expect(beyond(place(0, 0, 2000), north)).toBe(0);
    expect(beyond(place(0, 0, 100), north)).toBeCloseTo(1011.95, 1);
    expect(beyond(place(0, 0, 100), at(0.01, 0, 50))).toBeCloseTo(961.95, 1);
    expect(beyond(place(0, 0, 100), at(0.01, 0, 90_000))).toBeCloseTo(811.95, 1);
    expect(nearest([place(1, 1), place(0.01, 0.001), place(-1, 0)], north)?.metres).toBeCloseTo(11.19, 1);
    expect(nearest([], north)).toBeNull();
  });

  it('are said in metres and kilometres', () => {
    expect([3, 434, 996, 1240, 9951, 84_600].map(showDistance)).toEqual([
      '10 m',
      '430 m',
      '1000 m',
      '1.2 km',
      '10 km',
      '85 km',
    ]);
  });
});
