import { describe, expect, it } from 'vitest';

import type { Finding } from '../api/client';
import { groupsOf, sharedFixes } from './findingGroups';

const finding = (item_number: number | null, more: Partial<Finding> = {}): Finding => ({
  code: 'art.base',
  severity: 'look',
  station: 'edge',
  title: 'It already has a border',
  text: '',
  figures: {},
  item_number,
  sheet: null,
  places: [],
  fixes: [
    { label: 'Cut on it', effect: '', target: 'item', changes: { width_mm: item_number }, meant: false },
  ],
  answer: 'I mean it',
  meant: false,
  ...more,
});

describe('findings that several designs have', () => {
  it('are one card with all of them', () => {
    const groups = groupsOf([finding(1), finding(2), finding(3, { title: 'Another' })]);
    expect(groups.map((one) => one.members.length)).toEqual([2, 1]);
  });

  it('take in those of other designs that are not in sight', () => {
    const all = [finding(1), finding(2), finding(2), finding(4)];
    const [group] = groupsOf([finding(1)], all);
    expect(group?.members.map((one) => one.item_number)).toEqual([1, 2, 4]);
  });

  it('lose none of one design at several places', () => {
    const [here, there] = [finding(1, { text: 'here' }), finding(1, { text: 'there' })];
    const groups = groupsOf([here, there, finding(2, { text: 'here' })]);
    expect(groups.map((one) => one.members.length)).toEqual([2, 1]);
    expect(groups[1]?.first.text).toBe('there');
  });

  it('keep apart what was answered, and what is about no design', () => {
    expect(groupsOf([finding(1), finding(2, { meant: true }), finding(null), finding(null)])).toHaveLength(4);
  });

  it('offer what all of them offer, each with what it sets', () => {
    const split = { label: 'Split', effect: '', target: 'split' as const, changes: {}, meant: false };
    const fixes = sharedFixes([finding(1), finding(2, { fixes: [...finding(2).fixes, split] })]);
    expect(fixes).toHaveLength(1);
    expect(fixes[0]?.each).toEqual([
      { item_number: 1, changes: { width_mm: 1 } },
      { item_number: 2, changes: { width_mm: 2 } },
    ]);
    // What makes designs out of one is done for each by itself.
    expect(sharedFixes([finding(1, { fixes: [split] }), finding(2, { fixes: [split] })])).toEqual([]);
    expect(sharedFixes([finding(1, { fixes: [split] })])).toHaveLength(1);
  });
});
