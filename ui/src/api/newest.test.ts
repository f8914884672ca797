import { act, renderHook } from '@testing-library/react';
import { expect, it } from 'vitest';

import { useNewest } from './newest';

function questions() {
  const asked: number[] = [];
  const answers: ((text: string) => void)[] = [];
  const fails: ((error: Error) => void)[] = [];
  const call = (one: number) => {
    asked.push(one);
    return new Promise<string>((answer, fail) => {
      answers.push(answer);
      fails.push(fail);
    });
  };
  return { asked, answers, fails, call };
}

it('asks one question at a time, and then the newest', async () => {
  const { asked, answers, call } = questions();
  const { result } = renderHook(() => useNewest(call));
  act(() => {
    result.current.ask(1);
    result.current.ask(2);
    result.current.ask(3);
  });
  expect(asked).toEqual([1]);
  await act(async () => answers[0]?.('one'));
  expect(result.current.answer).toEqual({ asked: 1, answer: 'one' });
  expect(asked).toEqual([1, 3]);
  await act(async () => answers[1]?.('three'));
  expect(result.current.answer).toEqual({ asked: 3, answer: 'three' });
});

it('forgets an answer that was dropped while it was on its way', async () => {
  const { answers, call } = questions();
  const { result } = renderHook(() => useNewest(call));
  act(() => result.current.ask(1));
  act(() => result.current.drop());
  await act(async () => answers[0]?.('late'));
  expect(result.current.answer).toBeNull();
});

it('has no answer where the last question was refused, and takes the next', async () => {
  const { answers, fails, call } = questions();
  const { result } = renderHook(() => useNewest(call));
  act(() => result.current.ask(1));
  await act(async () => fails[0]?.(new Error('no')));
  expect(result.current.answer).toBeNull();
  act(() => result.current.ask(2));
  await act(async () => answers[1]?.('two'));
  expect(result.current.answer?.answer).toBe('two');
});
