import { useState } from 'react';

import type { Placement, Plan } from '../../api/view';
import { type Compared, useKeepLayout, useLayouts, useRemoveLayout, useSaveLayout } from '../../api/sheets';
import { Button } from '../../kit/Button';
import { Choose } from '../../kit/Choose';
import { showWay, useUnit } from '../../kit/units';
import { Window } from '../../kit/Window';
import { Loaded } from '../../look/Loaded';
import { lying } from '../../look/SheetView';

interface Props {
  jobId: number;
  plan: Plan;
  open: boolean;
  close: () => void;
}

/** Two layouts of the job side by side; one of them is kept. */
export function CompareWindow({ jobId, plan, open, close }: Props) {
  const layouts = useLayouts(jobId, plan.packing.layout, open);
  const [names, setNames] = useState<[string, string | null]>(['on the table', null]);
  const all = layouts.data ?? [];
  const left = all.find((one) => one.name === names[0]) ?? all[0];
  const right = all.find((one) => one.name === names[1]) ?? all.find((one) => one !== left);
  // Both sides at one scale, or the fuller sheet looks like the larger one.
  const height = Math.max(left?.sheets.length ?? 1, right?.sheets.length ?? 1) <= 2 ? '18rem' : '11rem';
  return (
    <Window title="Layouts side by side" open={open} close={close} wide>
      <SaveAs jobId={jobId} />
      <Loaded query={layouts} doing="Looking at the layouts">
        {() => null}
      </Loaded>
      <div className="mt-4 grid grid-cols-2 gap-5">
        {[left, right].map((one, side) =>
          one ? (
            <Side
              key={side}
              jobId={jobId}
              plan={plan}
              one={one}
              all={all}
              against={side === 0 ? right : left}
              height={height}
              choose={(name) => setNames(side === 0 ? [name, names[1]] : [names[0], name])}
              close={close}
            />
          ) : (
            <p key={side} className="text-soft">
              Keep a layout under a name, or pack again, to have a second one here.
            </p>
          ),
        )}
      </div>
    </Window>
  );
}

function SaveAs({ jobId }: { jobId: number }) {
  const save = useSaveLayout(jobId);
  const [name, setName] = useState('');
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) save.mutate(name.trim(), { onSuccess: () => setName('') });
      }}
    >
      <label className="flex flex-col gap-0.5 text-sm">
        Keep what is on the table as
        <input
          className="field w-64"
          value={name}
          maxLength={60}
          placeholder="a name, such as “by hand”"
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Button type="submit" disabled={!name.trim() || save.isPending}>
        Keep it
      </Button>
    </form>
  );
}

interface SideProps {
  jobId: number;
  plan: Plan;
  one: Compared;
  all: Compared[];
  against: Compared | undefined;
  height: string;
  choose: (name: string) => void;
  close: () => void;
}

function Side({ jobId, plan, one, all, against, height, choose, close }: SideProps) {
  const unit = useUnit((state) => state.unit);
  const keep = useKeepLayout(jobId);
  const remove = useRemoveLayout(jobId);
  const better = (mine: number, other: number | undefined) => other !== undefined && mine < other;
  return (
    <section aria-label={one.name} className="flex min-w-0 flex-col gap-3">
      <div className="flex items-center justify-between gap-2">
        <Choose
          label="Layout"
          name={one.name}
          choices={all.map((other) => ({
            words: other.name,
            chosen: other === one,
            do: () => choose(other.name),
          }))}
        />
        <span className="flex gap-1">
          {one.origin === 'named' && (
            <Button look="bare" onClick={() => remove.mutate(one.name)}>
              Remove
            </Button>
          )}
          {one.origin !== 'table' && (
            <Button
              look="main"
              onClick={() => keep.mutate(one.origin === 'named' ? one.name : null, { onSuccess: close })}
            >
              Keep this one
            </Button>
          )}
        </span>
      </div>
      <div className="flex flex-wrap gap-2">
        {one.sheets.slice(0, 6).map((sheet, number) => (
          <Small key={number} plan={plan} sheet={sheet} height={height} number={number} />
        ))}
        {one.sheets.length > 6 && <p className="self-center text-soft">and {one.sheets.length - 6} more</p>}
      </div>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        <Figure name="sheets" good={better(one.sheets.length, against?.sheets.length)}>
          {one.sheets.length}
        </Figure>
        <Figure name="pieces" good={better(-one.pieces, against && -against.pieces)}>
          {one.pieces}
        </Figure>
        <Figure name="used of the area" good={better(-one.used, against && -against.used)}>
          {Math.round(one.used * 100)} %
        </Figure>
        <Figure name="cut length" good={false}>
          {showWay(one.cut_length_mm, unit)}
        </Figure>
        <Figure name="cost a piece" good={false}>
          {one.cost_a_piece || 'no prices yet'}
        </Figure>
      </dl>
      {one.broken > 0 && (
        <p className="text-sm text-rowan">
          It was made before something changed: {one.broken} {one.broken === 1 ? 'rule is' : 'rules are'}{' '}
          broken by now.
        </p>
      )}
    </section>
  );
}

function Figure({ name, good, children }: { name: string; good: boolean; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd className={`figure font-bold ${good ? 'text-moss' : ''}`}>
        {children}
        {good && <span className="font-sans text-sm font-normal"> better</span>}
      </dd>
    </>
  );
}

/** One sheet, small: edges only. */
function Small({
  plan,
  sheet,
  height,
  number,
}: {
  plan: Plan;
  sheet: Placement[];
  height: string;
  number: number;
}) {
  const paths = new Map(plan.items.map((item) => [item.number, item.edge_path]));
  return (
    <svg
      viewBox={`-1 -1 ${plan.width_mm + 2} ${plan.height_mm + 2}`}
      className="drawing border border-rule"
      style={{ height }}
      role="img"
      aria-label={`Sheet ${number + 1}: ${sheet.length} pieces`}
    >
      <rect width={plan.width_mm} height={plan.height_mm} fill="var(--d-off)" />
      <path d={plan.sheets[number]?.live_path ?? plan.live_path} fill="var(--d-paper)" fillRule="evenodd" />
      {sheet.map((placement, index) => (
        <path
          key={index}
          d={paths.get(placement.item_number)}
          transform={lying(placement)}
          fill="var(--d-edge)"
          fillOpacity="0.16"
          stroke="var(--d-edge)"
          strokeWidth="1.2"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
