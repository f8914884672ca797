/** Findings that several designs have are one: with the designs they are about, and what all of them offer. */
import type { Finding } from '../api/client';

export interface FindingGroup {
  key: string;
  /** What it says where all say the same; the first one's else. */
  first: Finding;
  members: Finding[];
}

/** What a finding is grouped by: those alike of one design, at several places, are told apart by their order. */
function keysOf(findings: readonly Finding[]): Map<Finding, string> {
  const counts = new Map<string, number>();
  return new Map(
    findings.map((finding) => {
      const alike = [finding.code, finding.severity, finding.meant, finding.title].join('|');
      const of = `${alike}|${finding.item_number}`;
      const nth = counts.get(of) ?? 0;
      counts.set(of, nth + 1);
      return [finding, `${alike}|${nth}`];
    }),
  );
}

/** Findings grouped in their order; those about no design stand alone. `all` may hold more of the same. */
export function groupsOf(findings: readonly Finding[], all: readonly Finding[] = findings): FindingGroup[] {
  const keys = keysOf(findings);
  const keysOfAll = all === findings ? keys : keysOf(all);
  const groups = new Map<string, FindingGroup>();
  findings.forEach((finding, place) => {
    const alone = finding.item_number === null;
    const key = alone ? `alone ${place}` : (keys.get(finding) ?? '');
    if (groups.has(key)) return;
    const others = alone ? [] : all.filter((one) => one.item_number !== null && keysOfAll.get(one) === key);
    groups.set(key, { key, first: finding, members: others.length ? others : [finding] });
  });
  return [...groups.values()];
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
