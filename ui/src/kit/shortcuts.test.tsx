import { cleanup, fireEvent, render } from '@testing-library/react';
import { afterEach, beforeEach, expect, it } from 'vitest';

import { useKeys, useSingleKeys } from './shortcuts';

let done: string[] = [];

function Screen() {
  useKeys({ j: () => done.push('j'), 'Shift+z': () => done.push('redo'), escape: () => done.push('out') });
  return (
    <>
      <input aria-label="words" />
      <input aria-label="slider" type="range" />
      <div role="menu" tabIndex={0} />
      <div role="dialog">
        <button type="button">in a window</button>
      </div>
      <button type="button">plain</button>
    </>
  );
}

beforeEach(() => {
  done = [];
  useSingleKeys.setState({ on: true });
});
afterEach(cleanup);

const press = (target: Element | Window, key: string, more = {}) =>
  fireEvent.keyDown(target, { key, ...more });

it('acts anywhere on a screen', () => {
  const { container } = render(<Screen />);
  press(window, 'j');
  press(container.querySelectorAll('button')[1] as Element, 'J');
  press(window, 'z', { shiftKey: true });
  press(window, 'z');
  expect(done).toEqual(['j', 'j', 'redo']);
});

it.each(['input[aria-label=words]', '[role=menu]', '[role=dialog] button'])('leaves %s alone', (where) => {
  const { container } = render(<Screen />);
  press(container.querySelector(where) as Element, 'j');
  expect(done).toEqual([]);
});

it('acts while a slider has the focus: nobody types into that', () => {
  const { container } = render(<Screen />);
  press(container.querySelector('input[type=range]') as Element, 'j');
  expect(done).toEqual(['j']);
});

it('leaves combinations to the browser', () => {
  render(<Screen />);
  for (const held of ['ctrlKey', 'metaKey', 'altKey']) press(window, 'j', { [held]: true });
  expect(done).toEqual([]);
});

it('can be switched off; Escape still leads out', () => {
  useSingleKeys.setState({ on: false });
  render(<Screen />);
  press(window, 'j');
  press(window, 'Escape');
  expect(done).toEqual(['out']);
});

it('ends with its screen', () => {
  const { unmount } = render(<Screen />);
  unmount();
  press(window, 'j');
  expect(done).toEqual([]);
});
