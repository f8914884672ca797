import { describe, expect, it } from 'vitest';

import { knownParts, placementsOf, viewIn } from './view';

type Answer = Parameters<typeof viewIn>[0];

const design = (number: number, revision: string) => ({ number, revision, name: `design ${number}` });
const answer = (parts: object) =>
  ({
    job: { id: 1, document: { items: [{ number: 1, quantity: 5 }] } },
    brief: [],
    stations: [],
    findings: [],
    problem: null,
    parts: {
      packing: { state: 'done', layout: 'l' },
      new_sheet: null,
      new_layout: null,
      new_cut: null,
      new_designs: [],
      ...parts,
    },
  }) as unknown as Answer;

const names = (tail: string) => ({
  sheet: `s${tail}`,
  layout: `l${tail}`,
  cut: `c${tail}`,
  designs: { 1: `d${tail}` },
});
const whole = (tail: string) =>
  answer({
    ...names(tail),
    new_sheet: { revision: `s${tail}`, width_mm: 200 },
    new_layout: {
      revision: `l${tail}`,
      pins: ['free', 'hand'],
      placed: { 1: 4 },
      sheets: [{ pieces: [1, 10, 20, 90, 1], used: 0.5 }],
    },
    new_cut: { revision: `c${tail}`, settings: [] },
    new_designs: [design(1, `d${tail}`)],
  });

describe('a view', () => {
  it('is put together from the parts that came', () => {
    const plan = viewIn(whole('1'))?.plan;
    expect(plan?.items[0]).toMatchObject({ name: 'design 1', placed: 4, wanted: 5 });
    expect(plan?.sheets[0]?.placements).toEqual([
      { item_number: 1, x_mm: 10, y_mm: 20, turn_deg: 90, pin: 'hand' },
    ]);
    expect(plan).toMatchObject({ width_mm: 200, layoutRevision: 'l1', settings: [] });
  });

  it('takes what did not come from what was here', () => {
    viewIn(whole('2'));
    const later = viewIn(
      answer({ ...names('2'), cut: 'c3', new_cut: { revision: 'c3', settings: [{ cut: 'kiss' }] } }),
    );
    expect(later?.plan).toMatchObject({ width_mm: 200, settings: [{ cut: 'kiss' }] });
  });

  it('is none where a part is neither here nor there', () => {
    expect(viewIn(answer(names('unknown')))).toBeNull();
    expect(viewIn(answer({ ...names('2'), designs: { 1: 'd2', 2: 'gone' } }))).toBeNull();
  });

  it('has no plan where there is none', () => {
    expect(viewIn({ ...whole('4'), parts: null, problem: 'too wide' })).toMatchObject({
      plan: null,
      problem: 'too wide',
    });
  });

  it('says what it has, so that it is not sent again', () => {
    expect(knownParts(viewIn(whole('5')) ?? undefined)).toEqual({
      sheet: 's5',
      layout: 'l5',
      cut: 'c5',
      designs: ['d5'],
    });
    expect(knownParts(undefined)).toEqual({ sheet: '', layout: '', cut: '', designs: [] });
  });
});

it('pieces come five numbers each, and what is cut off is none', () => {
  expect(placementsOf([1, 2, 3, 4, 0, 7, 8], ['free'])).toHaveLength(1);
  expect(placementsOf([], [])).toEqual([]);
  expect(placementsOf([1, 2, 3, 4, 9], ['free'])[0]?.pin).toBe('free');
});
