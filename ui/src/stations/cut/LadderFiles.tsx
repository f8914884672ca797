import { useState } from 'react';

import { type Ladder, ladderFile, type Offcut, useLadderPlace } from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import type { Plan } from '../../api/view';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';

interface Props {
  jobId: number;
  plan: Plan;
  ladder: Ladder;
  sheet: number;
}

const KINDS = ['svg', 'dxf', 'hpgl'] as const;

/** Where the six drops are cut, and the files that cut them. */
export function LadderFiles({ jobId, plan, ladder, sheet }: Props) {
  const [offcut, setOffcut] = useState<Offcut | null>(null);
  const usual = useCatalog().data?.start.offcut;
  const place = useLadderPlace(jobId, sheet, plan.packing.layout, ladder.before, offcut).data;
  return (
    <Fold
      title="Cut the ladder"
      summary={offcut ? 'on an offcut' : `sheet ${sheet + 1}, in the waste`}
      open={ladder.open}
    >
      <div className="flex flex-col gap-1 text-sm">
        <label className="flex gap-2">
          <input
            type="radio"
            name="where"
            className="accent-kingfisher"
            checked={!offcut}
            onChange={() => setOffcut(null)}
          />
          in the waste of sheet {sheet + 1}
        </label>
        <label className="flex gap-2">
          <input
            type="radio"
            name="where"
            className="accent-kingfisher"
            checked={offcut !== null}
            onChange={() => usual && setOffcut(usual)}
          />
          on an offcut of the same stock
        </label>
      </div>
      {offcut && (
        <div className="flex gap-3">
          <LengthField
            label="Across"
            value={offcut.width_mm}
            onChange={(width_mm) => setOffcut({ ...offcut, width_mm })}
          />
          <LengthField
            label="Along"
            value={offcut.height_mm}
            onChange={(height_mm) => setOffcut({ ...offcut, height_mm })}
          />
        </div>
      )}
      {place?.problem ? (
        <p className="text-sm text-rowan" role="alert">
          {place.problem[0]?.toUpperCase() + place.problem.slice(1)}.
        </p>
      ) : (
        <p className="flex flex-wrap gap-x-4 gap-y-1 text-sm">
          {KINDS.map((kind) => (
            <a
              key={kind}
              className="font-bold text-kingfisher underline"
              href={ladderFile(jobId, sheet, ladder.id, kind, offcut)}
              download
            >
              {kind === 'hpgl' ? 'HP-GL' : kind.toUpperCase()}
            </a>
          ))}
          <span className="text-soft">HP-GL sets each force itself; in the others each drop is a layer.</span>
        </p>
      )}
    </Fold>
  );
}
