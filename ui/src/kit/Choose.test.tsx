import { cleanup, configure, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';

// What the library watches sizes with, which this page has none of.
vi.stubGlobal(
  'ResizeObserver',
  class {
    observe() {}
    unobserve() {}
    disconnect() {}
  },
);

// The menu is loaded anew for each test, which takes its time while types and lint are checked beside it.
const LONG_MS = 20_000;
configure({ asyncUtilTimeout: LONG_MS });
vi.setConfig({ testTimeout: 2 * LONG_MS });

let done: string[] = [];

/** A menu that has not been loaded yet: the module keeps it once it is. */
async function fresh() {
  vi.resetModules();
  const { Choose } = await import('./Choose');
  render(
    <Choose
      name="More"
      choices={[
        { words: 'Copy', do: () => done.push('copy') },
        { words: 'Remove', do: () => done.push('remove') },
      ]}
    />,
  );
  return screen.getByRole('button');
}

beforeEach(() => void (done = []));
afterEach(cleanup);

it('opens on a press that ends after its menu was loaded', async () => {
  const button = await fresh();
  fireEvent.pointerEnter(button);
  fireEvent.pointerDown(button);
  // The button that was pressed is gone by now, and with it the click.
  expect(await screen.findByText('Copy')).toBeTruthy();
  expect(button.isConnected).toBe(false);
});

it('opens by keyboard, which clicks it, and does what is chosen', async () => {
  const button = await fresh();
  button.focus();
  fireEvent.click(button);
  fireEvent.click(await screen.findByText('Remove'));
  expect(done).toEqual(['remove']);
});

it('keeps the focus when its menu is loaded, and stays closed', async () => {
  const button = await fresh();
  button.focus();
  await vi.waitFor(() => expect(button.isConnected).toBe(false), LONG_MS);
  expect(document.activeElement).toBe(screen.getByRole('button'));
  expect(screen.queryByText('Copy')).toBeNull();
});
