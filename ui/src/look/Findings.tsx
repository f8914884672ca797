import type { Finding, ItemDocument } from '../api/client';
import { useFix } from '../api/changes';
import { Bead } from '../kit/Bead';
import { Button } from '../kit/Button';
import { Fold } from '../kit/Fold';
import { useLook } from './shown';

const BEADS = { stop: 'stop', look: 'look', note: 'not-yet' } as const;

interface Props {
  findings: Finding[];
  items: readonly ItemDocument[];
  jobId: number;
  title?: string;
  /** Left out where all of them are about the design in sight. */
  named?: boolean;
}

/** What was found, most serious first; hovering shows the place, a fix is one action and can be undone. */
export function Findings({ findings, items, jobId, title = 'What Vamper found', named = true }: Props) {
  const stops = findings.filter((finding) => finding.severity === 'stop').length;
  const looks = findings.filter((finding) => finding.severity === 'look').length;
  const notes = findings.filter((finding) => finding.severity === 'note');
  const pressing = findings.filter((finding) => finding.severity !== 'note');
  const card = (finding: Finding, index: number) => (
    <FindingCard
      key={`${finding.code}-${finding.item_number}-${index}`}
      finding={finding}
      name={named ? items.find((item) => item.number === finding.item_number)?.name : undefined}
      jobId={jobId}
    />
  );
  const counts = [stops && `${stops} would spoil the sheet`, looks && `${looks} to look at`].filter(Boolean);
  return (
    <section aria-label={title}>
      <h2 className="font-head text-base font-bold">{title}</h2>
      <p className="mb-2 text-sm text-soft">{counts.length ? counts.join(', ') : 'Nothing stops you.'}</p>
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
    </section>
  );
}

const MOST_OPEN_NOTES = 3;

/** What notes are about, each kind once. */
const summaryOf = (notes: Finding[]) =>
  [...new Set(notes.map((note) => note.title.toLowerCase()))].join(', ');

interface CardProps {
  finding: Finding;
  name: string | undefined;
  jobId: number;
}

function FindingCard({ finding, name, jobId }: CardProps) {
  const take = useFix(jobId);
  const point = useLook((state) => state.point);
  const showItem = useLook((state) => state.showItem);
  const apply = (fix: Finding['fixes'][number]) => {
    point(null);
    const { label, target, changes } = fix;
    take({ label, target, changes, item_number: finding.item_number });
  };
  return (
    <li
      className="panel p-3"
      onMouseEnter={() => point(finding)}
      onMouseLeave={() => point(null)}
      onFocus={() => point(finding)}
      onBlur={() => point(null)}
    >
      <div className="flex gap-2.5">
        <span className="pt-0.5">
          <Bead state={BEADS[finding.severity]} label={finding.severity} />
        </span>
        <div className="min-w-0">
          <h3 className="leading-snug font-bold">
            {name && (
              <button
                type="button"
                className="border-b border-dotted border-soft"
                onClick={() => showItem(finding.item_number)}
              >
                {name}
              </button>
            )}
            {name && ': '}
            {finding.title}
          </h3>
          <p className="mt-0.5 text-sm">{finding.text}</p>
          {finding.fixes.map((fix) => (
            <div key={fix.label} className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
              <Button look="act" onClick={() => apply(fix)}>
                {fix.label}
              </Button>
              <span className="text-sm text-soft">{fix.effect}</span>
            </div>
          ))}
        </div>
      </div>
    </li>
  );
}
