import { useState } from 'react';

import { type Outcome, useDryRun } from '../../api/twin';
import { Button } from '../../kit/Button';
import { showLength, useUnit } from '../../kit/units';
import { Empty, Figure, Frame } from '../../look/Frame';
import { SheetRow, useSheet } from '../../look/SheetRow';
import { SheetView } from '../../look/SheetView';
import type { StationProps } from '../../look/station';
import { DryRunPanel } from './DryRunPanel';
import { Enlarged } from './Enlarged';
import { ResultOver } from './ResultOver';
import { Spoiled } from './Spoiled';

type Plan = NonNullable<StationProps['view']['plan']>;

/** The sheet run on simulated devices: plan and result under one slider, what was spoiled beside it, and why. */
export default function DryRunStation(props: StationProps) {
  const plan = props.view.plan;
  if (!plan || plan.sheets.length === 0)
    return <Frame foot={null} side={null} children={<Empty view={props.view} add={props.add} />} />;
  return <Running {...props} plan={plan} />;
}

function Running({ view, change, plan }: StationProps & { plan: Plan }) {
  const jobId = view.job.id;
  const sheet = useSheet(plan);
  const told = useDryRun(jobId).data;
  const outcome = told?.outcome ?? null;
  const there = outcome?.sheets[sheet];
  const [share, setShare] = useState(0);
  const [chosen, choose] = useState<number | null>(null);
  const piece = there?.pieces.find((one) => one.placement === chosen) ?? null;
  return (
    <Frame
      foot={
        <div className="flex flex-wrap items-center gap-x-8 gap-y-2">
          <span className="min-w-13">
            <SheetRow plan={plan} />
          </span>
          {outcome && <Figures outcome={outcome} />}
        </div>
      }
      side={<DryRunPanel jobId={jobId} view={view} change={change} told={told} />}
    >
      <SheetView
        jobId={jobId}
        plan={plan}
        sheet={sheet}
        mode={plan.mirror ? 'print' : 'plan'}
        bar={
          there ? (
            <div className="flex flex-wrap items-center gap-3">
              <Button
                look={share === 1 ? 'act' : 'bare'}
                aria-pressed={share === 1}
                onClick={() => setShare(1)}
              >
                Plan
              </Button>
              <input
                type="range"
                aria-label="How much of the plan is shown over the result"
                aria-valuetext={`${Math.round(share * 100)} % plan`}
                className="min-w-24 flex-1 accent-kingfisher"
                min={0}
                max={1}
                step={0.01}
                value={share}
                onChange={(event) => setShare(Number(event.target.value))}
              />
              <Button
                look={share === 0 ? 'act' : 'bare'}
                aria-pressed={share === 0}
                onClick={() => setShare(0)}
              >
                Result
              </Button>
            </div>
          ) : (
            <p className="text-sm text-soft">
              {told?.running ? 'The sheet is being printed, read and cut …' : 'This is the plan.'}
            </p>
          )
        }
        beside={
          outcome &&
          there && (
            <Spoiled
              jobId={jobId}
              outcome={outcome}
              sheet={sheet}
              there={there}
              items={plan.items}
              chosen={chosen}
              choose={choose}
            />
          )
        }
      >
        {(pxPerMm) =>
          outcome &&
          there && (
            <ResultOver
              jobId={jobId}
              outcome={outcome}
              sheet={sheet}
              there={there}
              plan={plan}
              share={share}
              pxPerMm={pxPerMm}
              chosen={chosen}
            />
          )
        }
      </SheetView>
      {outcome && there && piece && (
        <Enlarged
          jobId={jobId}
          outcome={outcome}
          sheet={sheet}
          piece={piece}
          name={plan.items.find((one) => one.number === piece.item_number)?.name ?? 'a piece'}
          close={() => choose(null)}
        />
      )}
    </Frame>
  );
}

function Figures({ outcome }: { outcome: Outcome }) {
  const unit = useUnit((state) => state.unit);
  return (
    <>
      <Figure name="Marks read">{outcome.marks_read} in 100</Figure>
      <Figure name="Sheets all good">{outcome.sheet_good} in 100</Figure>
      <Figure name="Pieces good">{outcome.pieces_good} in 100</Figure>
      {outcome.miss_p95_mm != null && (
        <Figure name="95 of 100 cuts within">{showLength(outcome.miss_p95_mm, unit, 2)}</Figure>
      )}
    </>
  );
}
