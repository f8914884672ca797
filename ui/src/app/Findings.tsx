import type { Finding, ItemDocument } from '../api/client';
import type { Changer } from '../api/hooks';
import { Bead } from '../kit/Bead';
import { Button } from '../kit/Button';
import { useLook } from './look';

const BEADS = { stop: 'stop', look: 'look', note: 'not yet' } as const;

interface Props {
  findings: Finding[];
  items: readonly ItemDocument[];
  change: Changer;
  title?: string;
  /** Left out where all of them are about the design in sight. */
  named?: boolean;
}

/** What was found, most serious first; hovering shows the place, a fix is one action and can be undone. */
export function Findings({ findings, items, change, title = 'What Vamper found', named = true }: Props) {
  const stops = findings.filter((finding) => finding.severity === 'stop').length;
  const looks = findings.filter((finding) => finding.severity === 'look').length;
  const counts = [stops && `${stops} would spoil the sheet`, looks && `${looks} to look at`].filter(Boolean);
  return (
    <section aria-label={title}>
      <h2 className="font-head text-base font-bold">{title}</h2>
      <p className="mb-2 text-sm text-soft">{counts.length ? counts.join(', ') : 'Nothing stops you.'}</p>
      <ul className="flex flex-col gap-2.5">
        {findings.map((finding, index) => (
          <FindingCard
            key={`${finding.code}-${finding.item_number}-${index}`}
            finding={finding}
            name={named ? items.find((item) => item.number === finding.item_number)?.name : undefined}
            change={change}
          />
        ))}
      </ul>
    </section>
  );
}

function FindingCard({
  finding,
  name,
  change,
}: {
  finding: Finding;
  name: string | undefined;
  change: Changer;
}) {
  const point = useLook((state) => state.point);
  const showItem = useLook((state) => state.showItem);
  const apply = (fix: Finding['fixes'][number]) => {
    const numbers = fix.target === 'item' && finding.item_number !== null ? [finding.item_number] : undefined;
    change({ label: fix.label, changes: fix.changes, ...(numbers ? { numbers } : {}) });
    point(null);
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
