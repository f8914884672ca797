import type { Finding, ItemDocument } from '../api/client';
import { Fold } from '../kit/Fold';
import { FindingCard } from './FindingCard';
import { groupsOf, type FindingGroup } from './findingGroups';

interface Props {
  findings: Finding[];
  items: readonly ItemDocument[];
  jobId: number;
  title?: string;
  /** Left out where all of them are about the design in sight. */
  named?: boolean;
  /** All of the job, where what other designs have as well is to be answered with them. */
  all?: Finding[];
}

/** What was found, most serious first; hovering shows the place, a fix is one action and can be undone. */
export function Findings({ findings, items, jobId, title = 'What Vamper found', named = true, all }: Props) {
  const open = findings.filter((finding) => !finding.meant);
  const notes = groupsOf(
    open.filter((finding) => finding.severity === 'note'),
    all,
  );
  const pressing = groupsOf(
    open.filter((finding) => finding.severity !== 'note'),
    all,
  );
  const meant = groupsOf(
    findings.filter((finding) => finding.meant),
    all,
  );
  // Counted as they are shown: what several designs have is one thing to look at.
  const stops = pressing.filter(({ first }) => first.severity === 'stop').length;
  const looks = pressing.length - stops;
  const card = (group: FindingGroup) => (
    <FindingCard key={group.key} group={group} items={items} named={named} jobId={jobId} />
  );
  const counts = [stops && `${stops} would spoil the sheet`, looks && `${looks} to look at`].filter(Boolean);
  return (
    <section aria-label={title}>
      <h2 className="font-head text-base font-bold">{title}</h2>
      <p className="mb-2 text-sm text-soft">{counts.length ? counts.join(', ') : 'Nothing to fix.'}</p>
      <ul className="flex flex-col gap-2.5">{pressing.map(card)}</ul>
      {notes.length > 0 && (
        <div className="mt-2.5">
          <Fold
            title={notes.length === 1 ? 'One note' : `${notes.length} notes`}
            summary={summaryOf(notes)}
            open={pressing.length === 0 && notes.length <= MOST_OPEN_NOTES}
          >
            <ul className="flex flex-col gap-2.5">{notes.map(card)}</ul>
          </Fold>
        </div>
      )}
      {meant.length > 0 && (
        <div className="mt-2.5">
          <Fold title="You said this is fine" summary={summaryOf(meant)}>
            <ul className="flex flex-col gap-2.5">{meant.map(card)}</ul>
          </Fold>
        </div>
      )}
    </section>
  );
}

const MOST_OPEN_NOTES = 3;

/** What some are about, each kind once. */
const summaryOf = (groups: FindingGroup[]) =>
  [...new Set(groups.map((group) => group.first.title.toLowerCase()))].join(', ');
