import { expect, it } from 'vitest';

import { left } from './clock';

it.each([
  [0, '0:00'],
  [-500, '0:00'],
  [1, '0:01'],
  [59_000, '0:59'],
  [60_000, '1:00'],
  [3_599_001, '1:00:00'],
  [3_661_000, '1:01:01'],
])('%d ms are %s', (ms, words) => expect(left(ms)).toBe(words));
