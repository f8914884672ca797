import { useState } from 'react';

import type { Schemas } from '../api/client';
import { useForgetGranted, useTellGranted } from '../api/shop';
import type { Plan, View } from '../api/view';
import { Button } from '../kit/Button';
import { LengthField } from '../kit/LengthField';
import { showLength, useUnit } from '../kit/units';
import { asSentence } from '../kit/words';

const SIDES = { width: 'Across', height: 'Along' } as const;
type Side = Schemas['GrantedSideOut'];

/** How large a picture the machine's own program takes on this paper: what is known, and what to try next. */
export function LargestPicture({ view, plan }: { view: View; plan: Plan }) {
  const forget = useForgetGranted(view.job.document.cutter_id);
  const unit = useUnit((state) => state.unit);
  const paper = { width_mm: plan.width_mm, height_mm: plan.height_mm, gone: [], margin_mm: 0 };
  const [width, height] = plan.granted.map((side) => side.try_mm ?? side.taken_mm ?? 0);
  const known = plan.granted.some((side) => side.taken_mm !== null || side.refused_mm !== null);
  return (
    <section aria-label="Largest picture" className="flex flex-col gap-3">
      <p className="text-sm text-soft">
        Your machine’s program takes less than the whole sheet, often other sizes for other papers. Draw the
        largest rectangle it allows on this paper, read its size off and type it here; or try a size and say
        what happened. It is kept for all sheets of this paper, and nothing is laid out beyond it.
      </p>
      {plan.granted.map((side) => (
        <OneSide key={side.side} side={side} view={view} paper={paper} />
      ))}
      <div className="flex flex-wrap gap-2">
        {width && height ? (
          <a
            className="font-bold text-kingfisher underline"
            href={`/api/trial.png?width_mm=${width}&height_mm=${height}`}
            download
          >
            An empty frame of {showLength(width, unit, 0)} × {showLength(height, unit, 0)} to try
          </a>
        ) : null}
        {known && <Button onClick={() => forget.mutate(paper)}>Forget these sizes</Button>}
      </div>
      {forget.error && <p className="text-rowan">{asSentence(forget.error.message)}</p>}
    </section>
  );
}

function OneSide({ side, view, paper }: { side: Side; view: View; paper: Schemas['Paper'] }) {
  const unit = useUnit((state) => state.unit);
  const told = useTellGranted(view.job.document.cutter_id);
  const proposed = side.try_mm ?? side.taken_mm ?? 0;
  const [typed, setTyped] = useState<number | null>(null);
  const size = typed ?? proposed;
  const tell = (taken: boolean) =>
    told.mutate({ paper, side: side.side, size_mm: size, taken }, { onSuccess: () => setTyped(null) });
  return (
    <fieldset className="flex flex-col gap-1.5 border-t border-rule pt-2">
      <legend className="sr-only">{SIDES[side.side]}</legend>
      <p className="text-sm">
        <b>{SIDES[side.side]}</b>: {known(side, unit)}
      </p>
      <div className="flex flex-wrap items-end gap-2">
        <LengthField
          key={proposed}
          label={side.try_mm === null ? 'Size' : 'Try next'}
          value={size}
          onChange={setTyped}
        />
        <Button onClick={() => tell(true)} disabled={told.isPending}>
          It was taken
        </Button>
        <Button onClick={() => tell(false)} disabled={told.isPending}>
          It was refused
        </Button>
      </div>
      {told.error && (
        <p className="text-rowan" role="alert">
          {asSentence(told.error.message)}
        </p>
      )}
    </fieldset>
  );
}

function known(side: Side, unit: 'mm' | 'in'): string {
  const taken = side.taken_mm === null ? null : showLength(side.taken_mm, unit, 0);
  const refused = side.refused_mm === null ? null : showLength(side.refused_mm, unit, 0);
  if (taken && refused) return `taken up to ${taken}, refused at ${refused}`;
  if (taken) return `taken up to ${taken}`;
  return refused ? `refused at ${refused}` : 'nothing known yet';
}
