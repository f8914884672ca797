import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';

import { CountField } from './CountField';
import { LabelField } from './LabelField';
import { LengthField } from './LengthField';
import { NumberField } from './NumberField';
import { readNumber } from './useDraft';

afterEach(cleanup);

const type = (text: string) => {
  const field = screen.getByRole<HTMLInputElement>('textbox');
  fireEvent.change(field, { target: { value: text } });
  return field;
};

describe('a number', () => {
  it.each([
    ['2.5', 2.5],
    ['2,5', 2.5],
    ['−3', -3],
    ['.5', 0.5],
    ['+7', 7],
  ])('%s is read', (text, value) => expect(readNumber(text)).toEqual({ value }));

  it.each(['', 'two', '1.2.3', '1e5', 'Infinity', '0x10', '1 000'])('“%s” is refused', (text) =>
    expect(readNumber(text)).toHaveProperty('wrong'),
  );

  it('is held against what may be typed', () => {
    expect(readNumber('3', { least: 4 })).toEqual({ wrong: 'At least 4.' });
    expect(readNumber('3', { most: 2 })).toEqual({ wrong: 'At most 2.' });
    expect(readNumber('2.5', { whole: true })).toHaveProperty('wrong');
  });
});

describe.each([
  [
    'a number field',
    (take: (value: number) => void) => <NumberField label="Force" unit="gf" value={60} onChange={take} />,
  ],
  [
    'a length field',
    (take: (value: number) => void) => <LengthField label="Gap" value={60} onChange={take} />,
  ],
  [
    'a count field',
    (take: (value: number) => void) => <CountField label="Copies" value={60} onChange={take} />,
  ],
  [
    'a figure of a label',
    (take: (value: number) => void) => (
      <LabelField
        label={{ ask: 'Minutes', unit: 'min', value: 60 }}
        put={(value) => value !== null && take(value)}
      />
    ),
  ],
])('%s', (_, field) => {
  const shown = () => {
    const taken: number[] = [];
    render(field((value) => taken.push(value)));
    return taken;
  };

  it('takes over what is typed on Enter, once', () => {
    const taken = shown();
    const input = type('42');
    expect(taken).toEqual([]);
    fireEvent.keyDown(input, { key: 'Enter' });
    fireEvent.blur(input);
    expect(taken).toEqual([42]);
  });

  it('takes it over when it is left', () => {
    const taken = shown();
    fireEvent.blur(type('43'));
    expect(taken).toEqual([43]);
  });

  it('keeps what cannot be read as it was typed, and says why', () => {
    const taken = shown();
    const input = type('plenty');
    fireEvent.blur(input);
    expect(taken).toEqual([]);
    expect(input.value).toBe('plenty');
    expect(input.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByRole('alert').textContent).toMatch(/^Type a/);
  });

  it('gives it up on Escape', () => {
    const taken = shown();
    const input = type('44');
    fireEvent.keyDown(input, { key: 'Escape' });
    fireEvent.blur(input);
    expect([taken, input.value]).toEqual([[], '60']);
  });

  it('says nothing where the same was typed', () => {
    const taken = shown();
    fireEvent.blur(type('60'));
    expect(taken).toEqual([]);
  });
});

it('an emptied figure of a label is unknown again', () => {
  const put: (number | null)[] = [];
  render(<LabelField label={{ ask: 'Minutes', unit: 'min', value: 9 }} put={(value) => put.push(value)} />);
  fireEvent.blur(type(''));
  expect(put).toEqual([null]);
});
