/** Findings that several designs have are one: with the designs they are about, and what all of them offer. */
import type { Finding } from '../api/client';

export interface FindingGroup {
  key: string;
  /** What it says where all say the same; the first one's else. */
  first: Finding;
  members: Finding[];
}

const keyOf = (finding: Finding) => [finding.code, finding.severity, finding.meant, finding.title].join('|');

/** Findings grouped in their order; those about no design stand alone. `all` may hold more of the same. */
export function groupsOf(findings: readonly Finding[], all: readonly Finding[] = findings): FindingGroup[] {
  const groups = new Map<string, FindingGroup>();
  findings.forEach((finding, place) => {
    if (finding.item_number === null) {
      groups.set(`alone ${place}`, { key: `alone ${place}`, first: finding, members: [finding] });
      return;
    }
    const key = keyOf(finding);
    if (groups.has(key)) return;
    const members = all.filter((one) => one.item_number !== null && keyOf(one) === key);
    groups.set(key, { key, first: finding, members: onceEach(members.length ? members : [finding]) });
  });
  return [...groups.values()];
}

/** One of each design: a design can have the same finding at two places. */
function onceEach(members: Finding[]): Finding[] {
  const seen = new Set<number | null>();
  return members.filter((one) => !seen.has(one.item_number) && seen.add(one.item_number));
}

/** What every one of some findings offers, by its label, with what it sets for each. */
export function sharedFixes(members: readonly Finding[]) {
  const [first, ...others] = members;
  if (!first) return [];
  return first.fixes
    .filter(
      (fix) =>
        (members.length === 1 || fix.target === 'item') &&
        others.every((one) => one.fixes.some((other) => other.label === fix.label)),
    )
    .map((fix) => ({
      fix,
      each: members.flatMap((one) => {
        const own = one.fixes.find((other) => other.label === fix.label);
        return own && one.item_number !== null
          ? [{ item_number: one.item_number, changes: own.changes }]
          : [];
      }),
    }));
}
