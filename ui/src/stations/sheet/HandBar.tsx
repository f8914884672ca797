import type { ComponentProps } from 'react';

import type { Plan } from '../../api/view';
import type { Deed } from '../../api/hand';
import { Button } from '../../kit/Button';
import { Choose } from '../../kit/Choose';
import { showSize, useUnit } from '../../kit/units';

interface Props {
  plan: Plan;
  sheet: number;
  picks: readonly number[];
  act: (deed: Deed) => void;
  send: (sheet: number) => void;
}

const SIDES = [
  ['left', 'left sides'],
  ['middle', 'upright middles'],
  ['right', 'right sides'],
  ['top', 'upper sides'],
  ['centre', 'level middles'],
  ['bottom', 'lower sides'],
] as const;

/** What is in hand, and what can be done with it. */
export function HandBar({ plan, sheet, picks, act, send }: Props) {
  const unit = useUnit((state) => state.unit);
  const pieces = picks.flatMap((index) => plan.sheets[sheet]?.placements[index] ?? []);
  const first = pieces[0];
  if (!first)
    return (
      <p className="truncate max-[52rem]:whitespace-normal text-sm text-soft">
        Press a piece to take it up, drag it where it should lie; with Shift, take up several.
      </p>
    );
  const item = plan.items.find((one) => one.number === first.item_number);
  const indexes = [...picks];
  const locked = pieces.every((one) => one.pin === 'locked');
  const many = pieces.length > 1;
  return (
    <div role="toolbar" aria-label="Pieces in hand" className="flex flex-wrap items-center gap-x-3">
      <p
        className="min-w-16 flex-1 truncate max-[52rem]:whitespace-normal text-sm"
        title={many ? undefined : item?.name}
      >
        <span className="font-bold">{many ? `${pieces.length} in hand` : item?.name}</span>
        {!many && item && (
          <span className="figure text-soft">
            {' '}
            {showSize(item.edge_size.width_mm, item.edge_size.height_mm, unit, 0)}
          </span>
        )}
        {locked && <span className="text-soft">, locked</span>}
      </p>
      <div className="flex flex-wrap items-center gap-0.5">
        {!locked && (
          <Do hotkey="R" onClick={() => act({ action: 'turn', indexes, steps: 1 })}>
            Turn
          </Do>
        )}
        <Do hotkey="D" onClick={() => act({ action: 'duplicate', indexes })}>
          Duplicate
        </Do>
        <Do hotkey="L" onClick={() => act({ action: 'lock', indexes, locked: !locked })}>
          {locked ? 'Unlock' : 'Lock'}
        </Do>
        {!locked && (
          <>
            <Do onClick={() => act({ action: 'take off', indexes })}>Take off</Do>
            {!many && <Do onClick={() => act({ action: 'grow', indexes })}>Fill its gap</Do>}
            {many && <Choose bare name="Line up" choices={arranging(indexes, act)} />}
            <Choose
              bare
              name="Send to"
              choices={[...plan.sheets.map((_, number) => number), plan.sheets.length]
                .filter((number) => number !== sheet)
                .map((number) => ({
                  words: number === plan.sheets.length ? 'a new sheet' : `sheet ${number + 1}`,
                  do: () => send(number),
                }))}
            />
          </>
        )}
      </div>
    </div>
  );
}

/** A verb of the bar. */
function Do(props: ComponentProps<typeof Button>) {
  return <Button look="bare" className="px-2 whitespace-nowrap" {...props} />;
}

/** What several pieces can be brought to: exchanged, aligned, spaced out. */
const arranging = (indexes: number[], act: Props['act']) => [
  ...(indexes.length === 2
    ? [{ words: 'swap the two (X)', do: () => act({ action: 'swap', indexes }) }]
    : []),
  ...SIDES.map(([side, words]) => ({
    words: `by their ${words}`,
    do: () => act({ action: 'align', indexes, side }),
  })),
  ...(indexes.length > 2
    ? [
        {
          words: 'space them evenly across',
          do: () => act({ action: 'space', indexes, way: 'across' as const }),
        },
        {
          words: 'space them evenly downwards',
          do: () => act({ action: 'space', indexes, way: 'down' as const }),
        },
      ]
    : []),
];
