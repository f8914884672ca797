import { expect, test } from 'vitest';

import { standsBelow } from './standsBelow';

const NAMES = ['label', 'vinyl', 'card', 'board'];

test('a row dropped between two stands below those above it, from either side', () => {
  expect(standsBelow(NAMES, 'label', 3)).toEqual(['vinyl', 'card']);
  expect(standsBelow(NAMES, 'board', 1)).toEqual(['label']);
});

test('at the top it has none above it, at the foot all others', () => {
  expect(standsBelow(NAMES, 'card', 0)).toEqual([]);
  expect(standsBelow(NAMES, 'label', 4)).toEqual(['vinyl', 'card', 'board']);
});

test('dropped where it lies, or beyond the list, it stays', () => {
  expect(standsBelow(NAMES, 'vinyl', 1)).toBeNull();
  expect(standsBelow(NAMES, 'vinyl', 2)).toBeNull();
  expect(standsBelow(NAMES, 'vinyl', -1)).toBeNull();
  expect(standsBelow(NAMES, 'label', 5)).toBeNull();
});
