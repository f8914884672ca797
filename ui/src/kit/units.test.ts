import { describe, expect, it } from 'vitest';

import {
  plainHeat,
  plainLength,
  readHeat,
  readLength,
  showArea,
  showLength,
  showSize,
  showSpeed,
  showWay,
} from './units';

describe('a typed length', () => {
  it.each([
    ['24 pt', 'mm', 8.466667],
    ['60', 'mm', 60],
    ['6 cm', 'mm', 60],
    ['6cm', 'in', 60],
    ['2,5', 'mm', 2.5],
    ['2 1/2"', 'mm', 63.5],
    ['2 1/2', 'in', 63.5],
    ['1/8', 'in', 3.175],
    ['2.5 in', 'mm', 63.5],
    ['3”', 'mm', 76.2],
    [' −1.5 ', 'mm', -1.5],
    ['-1/2 inch', 'mm', -12.7],
    ['0', 'mm', 0],
  ] as const)('%s in %s is %d mm', (text, unit, mm) => {
    expect(readLength(text, unit)).toBeCloseTo(mm, 6);
  });

  it.each(['', ' ', 'six', '6 feet', '1/0', '6 6', '1,2,3', '--1', '1e3', '/2', 'mm'])(
    '“%s” is none',
    (text) => {
      expect(readLength(text, 'mm')).toBeNull();
    },
  );

  it('comes back as it was shown in a field, in both units', () => {
    for (const unit of ['mm', 'in'] as const)
      for (let mm = -3; mm < 300; mm += 0.37) {
        const finest = unit === 'mm' ? 0.005 : 0.0005 * 25.4;
        expect(Math.abs((readLength(plainLength(mm, unit), unit) ?? NaN) - mm)).toBeLessThanOrEqual(
          finest + 1e-9,
        );
      }
  });
});

describe('a length that is shown', () => {
  it('is a fraction where a ruler has such a line', () => {
    expect(showLength(3.175, 'in')).toBe('1/8 in');
    expect(showLength(25.4 * 2.5, 'in')).toBe('2 1/2 in');
    expect(showLength(25.4, 'in')).toBe('1 in');
    expect(showLength(-12.7, 'in')).toBe('-1/2 in');
    expect(showLength(25.4 * (15 / 16), 'in')).toBe('15/16 in');
    expect(showLength(25.4 * (3 / 32), 'in')).toBe('3/32 in');
    expect(showLength(25.4 * (1 + 3 / 32), 'in')).toBe('1.09 in');
    expect(showLength(0, 'in')).toBe('0.00 in');
    expect(showLength(2, 'in')).toBe('0.08 in');
  });

  it('has its digits in millimetres', () => {
    expect(showLength(3, 'mm')).toBe('3.0 mm');
    expect(showLength(3.14159, 'mm', 2)).toBe('3.14 mm');
    expect(showSize(215.9, 279.4, 'mm', 0)).toBe('216 × 279 mm');
    expect(showSize(215.9, 279.4, 'in')).toBe('8 1/2 × 11 in');
  });

  it('is a way, an area or a speed in the unit of the maker', () => {
    expect([showWay(1500, 'mm'), showWay(304.8, 'in')]).toEqual(['1.5 m', '1.0 ft']);
    expect([showArea(6.4516, 'mm'), showArea(6.4516, 'in')]).toEqual(['6.5 cm²', '1.00 in²']);
    expect([showSpeed(50.8, 'mm'), showSpeed(50.8, 'in')]).toEqual(['50.8 mm/s', '2.0 in/s']);
  });
});

describe('a heat', () => {
  it('is read in either unit, whatever is in use', () => {
    expect(readHeat('160', 'mm')).toBe(160);
    expect(readHeat('320', 'in')).toBe(160);
    expect(readHeat('320 F', 'mm')).toBe(160);
    expect(readHeat('160 °C', 'in')).toBe(160);
    expect(readHeat('hot', 'mm')).toBeNull();
  });

  it('stays what it was when only looked at', () => {
    for (let celsius = 40; celsius < 260; celsius += 5) {
      expect(readHeat(plainHeat(celsius, 'mm'), 'mm')).toBe(celsius);
      expect(Math.abs((readHeat(plainHeat(celsius, 'in'), 'in') ?? NaN) - celsius)).toBeLessThan(0.5);
    }
  });
});
