import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';

import { useDrag } from './useDrag';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

function dragged(value = 3) {
  const tried: number[] = [];
  const kept: number[] = [];
  const hook = renderHook(
    (props: { value: number }) =>
      useDrag(
        props.value,
        (one) => tried.push(one),
        (one) => kept.push(one),
      ),
    { initialProps: { value } },
  );
  return { tried, kept, ...hook };
}

it('tries every movement and keeps the last, when it is let go', () => {
  const { tried, kept, result } = dragged();
  act(() => result.current.move(4));
  act(() => result.current.move(5));
  expect(result.current.shown).toBe(5);
  act(() => result.current.letGo());
  expect([tried, kept]).toEqual([[4, 5], [5]]);
  act(() => void vi.advanceTimersByTime(1000));
  expect(kept).toEqual([5]);
});

it('takes a pause for letting go, as by keyboard nobody does', () => {
  const { kept, result } = dragged();
  act(() => result.current.move(4));
  act(() => void vi.advanceTimersByTime(200));
  act(() => result.current.move(5));
  act(() => void vi.advanceTimersByTime(200));
  expect(kept).toEqual([]);
  act(() => void vi.advanceTimersByTime(100));
  expect(kept).toEqual([5]);
});

it('shows what was moved to until that is saved, and then follows what is saved', () => {
  const { result, rerender } = dragged();
  act(() => result.current.move(5));
  act(() => result.current.letGo());
  expect(result.current.shown).toBe(5);
  rerender({ value: 5 });
  rerender({ value: 7 });
  expect(result.current.shown).toBe(7);
});

it('keeps nothing where nothing was moved', () => {
  const { kept, result } = dragged();
  act(() => result.current.letGo());
  expect(kept).toEqual([]);
});
