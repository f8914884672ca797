import { describe, expect, it } from 'vitest';

import { movedCrop } from './movedCrop';

describe('the part of a picture that shows', () => {
  it('moves as far as the picture reaches, and keeps its size', () => {
    expect(movedCrop([0.2, 0, 0.7, 1], 0.1, 0.5)).toEqual([0.3, 0, 0.8, 1]);
    expect(movedCrop([0.2, 0, 0.7, 1], 0.9, 0)).toEqual([0.5, 0, 1, 1]);
    expect(movedCrop([0.2, 0.1, 0.7, 0.6], -0.9, -0.9)).toEqual([0, 0, 0.5, 0.5]);
  });
});
