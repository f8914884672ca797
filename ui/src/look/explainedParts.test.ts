import { expect, test } from 'vitest';

import { partsOf } from './explainedParts';

const TERMS = [
  { key: 'kiss-cut', name: 'kiss cut', forms: ['kiss cuts', 'kiss cut'], text: 'Through the face only.' },
  { key: 'bleed', name: 'bleed', forms: ['bleeds', 'bleed'], text: 'Colour past the cut.' },
];

test('each term is marked once, in the form that stands there', () => {
  const parts = partsOf('Kiss cut good in 36 of 100; a second kiss cut bleeds.', TERMS);
  expect(parts.filter((part) => part.term).map((part) => part.words)).toEqual(['Kiss cut', 'bleeds']);
  expect(parts.map((part) => part.words).join('')).toBe(
    'Kiss cut good in 36 of 100; a second kiss cut bleeds.',
  );
});

test('words that only hold a term are left alone', () => {
  expect(partsOf('The bleeding edge.', TERMS)).toEqual([{ words: 'The bleeding edge.', term: null }]);
  expect(partsOf('', TERMS)).toEqual([]);
  expect(partsOf('bleed', [])).toEqual([{ words: 'bleed', term: null }]);
});
