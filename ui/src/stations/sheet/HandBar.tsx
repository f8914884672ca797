import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';

import type { Plan } from '../../api/client';
import type { Deed } from '../../api/hand';
import { Button } from '../../kit/Button';
import { plainLength, showLength, useUnit } from '../../kit/units';

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
  if (!first) return null;
  const item = plan.items.find((one) => one.number === first.item_number);
  const indexes = [...picks];
  const locked = pieces.every((one) => one.pin === 'locked');
  const many = pieces.length > 1;
  return (
    <div
      role="toolbar"
      aria-label="Pieces in hand"
      className="absolute top-2 right-2 left-2 z-10 flex flex-wrap items-center gap-x-3 gap-y-1.5 rounded-[6px] border border-rule bg-paper px-3 py-1.5 shadow-card"
    >
      <p className="min-w-0 flex-1 truncate text-sm">
        <span className="font-bold">{many ? `${pieces.length} pieces in hand` : item?.name}</span>
        {!many && item && (
          <span className="figure text-soft">
            {' '}
            {plainLength(item.edge_size.width_mm, unit)} × {showLength(item.edge_size.height_mm, unit)},{' '}
            {Math.round(first.turn_deg)}°
          </span>
        )}
        {locked && <span className="text-soft">, locked</span>}
      </p>
      <div className="flex flex-wrap items-center gap-1">
        {!locked && (
          <>
            <Button hotkey="R" onClick={() => act({ action: 'turn', indexes, steps: 1 })}>
              Turn
            </Button>
            {many && (
              <>
                {pieces.length === 2 && (
                  <Button hotkey="X" onClick={() => act({ action: 'swap', indexes })}>
                    Swap
                  </Button>
                )}
                <Choose
                  name="Align"
                  choices={[
                    ...SIDES.map(([side, words]) => ({
                      words: `by their ${words}`,
                      do: () => act({ action: 'align', indexes, side }),
                    })),
                    ...(pieces.length > 2
                      ? [
                          {
                            words: 'spaced evenly across',
                            do: () => act({ action: 'space', indexes, way: 'across' }),
                          },
                          {
                            words: 'spaced evenly downwards',
                            do: () => act({ action: 'space', indexes, way: 'down' }),
                          },
                        ]
                      : []),
                  ]}
                />
              </>
            )}
            <Choose
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
        <Button hotkey="D" onClick={() => act({ action: 'duplicate', indexes })}>
          Duplicate
        </Button>
        <Button hotkey="L" onClick={() => act({ action: 'lock', indexes, locked: !locked })}>
          {locked ? 'Unlock' : 'Lock'}
        </Button>
        {!locked && <Button onClick={() => act({ action: 'take off', indexes })}>Take off</Button>}
      </div>
    </div>
  );
}

interface ChooseProps {
  name: string;
  choices: { words: string; do: () => void }[];
}

function Choose({ name, choices }: ChooseProps) {
  return (
    <Menu>
      <MenuButton as={Button}>
        {name}
        <span aria-hidden> ▾</span>
      </MenuButton>
      <MenuItems
        anchor={{ to: 'bottom end', gap: 6, padding: 12 }}
        className="panel z-30 flex flex-col p-1 shadow-card"
      >
        {choices.map((choice) => (
          <MenuItem key={choice.words}>
            <button
              type="button"
              className="rounded-[4px] px-3 py-1.5 text-left text-sm data-focus:bg-tray"
              onClick={choice.do}
            >
              {choice.words}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
