import { describe, expect, it } from 'vitest';

import type { Placement } from '../../api/view';
import { inHand, isStill, movedBy, picksAfter } from './handDrag';

const lying = (x_mm: number): Placement => ({ item_number: 1, x_mm, y_mm: 5, turn_deg: 15, pin: 'free' });

describe('what is taken up by a press', () => {
  it('is this one alone, or all that was up where it was among them', () => {
    expect(picksAfter([], 3, false)).toEqual([3]);
    expect(picksAfter([1, 2], 3, false)).toEqual([3]);
    expect(picksAfter([1, 3], 3, false)).toEqual([1, 3]);
  });

  it('is one more or one less of several', () => {
    expect(picksAfter([1], 3, true)).toEqual([1, 3]);
    expect(picksAfter([1, 3], 3, true)).toEqual([1]);
    expect(picksAfter(picksAfter([1], 3, true), 3, true)).toEqual([1]);
  });
});

it('a hand that trembles moves nothing', () => {
  expect(isStill({ x: 0.1, y: 0.1 })).toBe(true);
  expect(isStill({ x: 0.15, y: 0.15 })).toBe(false);
  expect(movedBy({ x: 1, y: 2 }, { x: 4, y: 1 })).toEqual({ x: 3, y: -1 });
});

it('pieces lie where they were moved to, turned as they were; those that are gone are left out', () => {
  const found = inHand([lying(10), lying(20)], { x: 3, y: -1 }, [1, 7, 0]);
  expect(found).toEqual([
    { index: 1, x_mm: 23, y_mm: 4, turn_deg: 15 },
    { index: 0, x_mm: 13, y_mm: 4, turn_deg: 15 },
  ]);
});
