import { describe, expect, it } from 'vitest';

import { ChangeQueue, type Kept, type Line } from './changeQueue';

interface Change {
  sets: string;
  to: number;
}

class Later extends Error {}

/** A server that answers when it is told to, and writes down what happened. */
function bench() {
  const sent: Change[] = [];
  const said: string[] = [];
  const kept: Kept[] = [];
  const open: { answer: (text: string) => void; fail: (error: Error) => void }[] = [];
  const pauses: (() => void)[] = [];
  const line: Line<Change, string> = {
    send: (change) => {
      sent.push(change);
      return new Promise((answer, fail) => open.push({ answer, fail }));
    },
    sets: (change) => change.sets,
    isLater: (error, change) => error instanceof Later && change.sets !== 'once',
    pause: () => new Promise((settle) => pauses.push(settle)),
    keep: (state) => kept.push(state),
    arrived: async (answer) => void said.push(`shown ${answer}`),
    refused: async (error) => void said.push(`refused ${error.message}`),
    late: (error) => said.push(`late ${error.message}`),
  };
  const settle = async () => {
    for (let n = 0; n < 8; n += 1) await Promise.resolve();
  };
  return { queue: new ChangeQueue(line), sent, said, kept, open, pauses, settle };
}

describe('a queue of changes', () => {
  it('sends one after the other, in the order in which they were made', async () => {
    const { queue, sent, open, said, kept, settle } = bench();
    queue.push({ sets: 'a', to: 1 });
    queue.push({ sets: 'b', to: 2 });
    queue.push({ sets: 'c', to: 3 });
    expect(sent.map((one) => one.sets)).toEqual(['a']);
    open[0]?.answer('one');
    await settle();
    open[1]?.answer('two');
    await settle();
    open[2]?.answer('three');
    await settle();
    expect(sent.map((one) => one.sets)).toEqual(['a', 'b', 'c']);
    // Only the last answer is shown: the ones before it are old by then.
    expect(said).toEqual(['shown three']);
    expect(kept[0]).toBe('saving');
    expect(kept.at(-1)).toBe('saved');
  });

  it('keeps only the newest of those that set the same, behind all before it', async () => {
    const { queue, sent, open, settle } = bench();
    queue.push({ sets: 'title', to: 0 });
    queue.push({ sets: 'width', to: 1 });
    queue.push({ sets: 'gap', to: 2 });
    queue.push({ sets: 'width', to: 3 });
    for (let n = 0; n < 4; n += 1) {
      open[n]?.answer('');
      await settle();
    }
    expect(sent.slice(1)).toEqual([
      { sets: 'gap', to: 2 },
      { sets: 'width', to: 3 },
    ]);
  });

  it('sends again what could not be sent, before anything newer', async () => {
    const { queue, sent, open, pauses, said, kept, settle } = bench();
    queue.push({ sets: 'a', to: 1 });
    queue.push({ sets: 'b', to: 2 });
    open[0]?.fail(new Later('away'));
    await settle();
    expect(said).toEqual(['late away']);
    expect(kept.at(-1)).toBe('not saved');
    expect(sent).toHaveLength(1);
    pauses[0]?.();
    await settle();
    expect(sent[1]).toEqual({ sets: 'a', to: 1 });
    open[1]?.answer('');
    await settle();
    open[2]?.answer('');
    await settle();
    expect(sent.map((one) => one.sets)).toEqual(['a', 'a', 'b']);
    expect(kept.at(-1)).toBe('saved');
  });

  it('drops what was late where it was made anew meanwhile', async () => {
    const { queue, sent, open, pauses, settle } = bench();
    queue.push({ sets: 'a', to: 1 });
    queue.push({ sets: 'a', to: 9 });
    open[0]?.fail(new Later('away'));
    await settle();
    pauses[0]?.();
    await settle();
    open[1]?.answer('');
    await settle();
    expect(sent.map((one) => one.to)).toEqual([1, 9]);
  });

  it('sends nothing again that may be done only once', async () => {
    const { queue, sent, open, said, settle } = bench();
    queue.push({ sets: 'once', to: 1 });
    open[0]?.fail(new Later('away'));
    await settle();
    expect([sent.length, said]).toEqual([1, ['refused away']]);
  });

  it('tells what is refused, and goes on with the next', async () => {
    const { queue, sent, open, said, settle } = bench();
    queue.push({ sets: 'a', to: 1 });
    queue.push({ sets: 'b', to: 2 });
    open[0]?.fail(new Error('too wide'));
    await settle();
    open[1]?.answer('b');
    await settle();
    expect(said).toEqual(['refused too wide', 'shown b']);
    expect(sent).toHaveLength(2);
  });

  it('says when everything has arrived, once', async () => {
    const { queue, open, settle } = bench();
    let done = 0;
    queue.push({ sets: 'a', to: 1 }, () => (done += 1));
    queue.push({ sets: 'b', to: 1 }, () => (done += 1));
    open[0]?.answer('');
    await settle();
    expect(done).toBe(0);
    open[1]?.answer('');
    await settle();
    expect(done).toBe(2);
  });
});
