/** Words of the craft in a sentence: each term once, where it stands first. */
import type { Schemas } from '../api/client';

type Term = Schemas['Term'];
export interface Part {
  words: string;
  term: Term | null;
}

const escaped = (form: string) => form.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

export function partsOf(text: string, terms: readonly Term[]): Part[] {
  const byForm = new Map(terms.flatMap((term) => term.forms.map((form) => [form.toLowerCase(), term])));
  const forms = [...byForm.keys()].sort((one, other) => other.length - one.length);
  if (forms.length === 0) return [{ words: text, term: null }];
  const found = new Set<string>();
  const parts: Part[] = [];
  let plain = '';
  for (const words of text.split(new RegExp(`\\b(${forms.map(escaped).join('|')})\\b`, 'i'))) {
    const term = byForm.get(words.toLowerCase());
    if (!term || found.has(term.key)) {
      plain += words;
      continue;
    }
    found.add(term.key);
    if (plain) parts.push({ words: plain, term: null });
    plain = '';
    parts.push({ words, term });
  }
  if (plain) parts.push({ words: plain, term: null });
  return parts;
}
