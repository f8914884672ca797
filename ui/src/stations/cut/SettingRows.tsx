/** Each setting as a row, what is believed of it as a bar; a row is dragged to where it presses harder or gentler. */
import { type KeyboardEvent, useState } from 'react';

import {
  EVERY_PRESSURE,
  type NamedSetting,
  type Settings,
  useChangeSetting,
  usePlaceSetting,
} from '../../api/cut';
import { Choose } from '../../kit/Choose';
import { asSentence } from '../../kit/words';
import { type Changed, SettingForm } from './SettingForm';
import { standsBelow } from './standsBelow';

const COLUMNS = 'grid grid-cols-[1.25rem_minmax(6rem,2fr)_minmax(8rem,3fr)_4rem_auto] gap-x-3';

export function SettingRows({ jobId, settings }: { jobId: number; settings: Settings }) {
  const place = usePlaceSetting(jobId);
  const [dragged, setDragged] = useState<string | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const names = settings.settings.map((one) => one.name);
  const put = (name: string, before: number) => {
    const above = standsBelow(names, name, before);
    if (above) place.mutate({ name, above });
  };
  const end = () => {
    setDragged(null);
    setOver(null);
  };
  return (
    <section aria-label="Your settings" className="flex flex-col gap-1">
      <div className={`${COLUMNS} items-end text-sm text-soft`}>
        <span className="col-span-2">Your settings</span>
        <span className="flex justify-between">
          <span>presses gently</span>
          <span>hard</span>
        </span>
        <span>good in 100</span>
        <span className="w-20" />
      </div>
      <ul
        onDragOver={(event) => {
          if (dragged !== null) event.preventDefault();
        }}
        onDrop={(event) => {
          event.preventDefault();
          if (dragged !== null && over !== null) put(dragged, over);
          end();
        }}
      >
        {settings.settings.map((one, index) => (
          <Row
            key={one.name}
            jobId={jobId}
            one={one}
            settings={settings}
            line={dragged === null ? null : over === index ? 'above' : over === index + 1 ? 'below' : null}
            drag={() => setDragged(one.name)}
            end={end}
            hover={(below) => {
              if (dragged !== null) setOver(index + (below ? 1 : 0));
            }}
            step={(by) => put(one.name, by < 0 ? index - 1 : index + 2)}
          />
        ))}
      </ul>
      {names.length > 1 && (
        <p className="text-sm text-soft">
          Gentlest first, as far as Vamper knows. If you know better, drag a row by its dots, or move it with
          the arrow keys.
        </p>
      )}
      {place.error && (
        <p role="alert" className="text-rowan">
          {asSentence(place.error.message)}
        </p>
      )}
    </section>
  );
}

interface RowProps {
  jobId: number;
  one: NamedSetting;
  settings: Settings;
  line: 'above' | 'below' | null;
  drag: () => void;
  end: () => void;
  hover: (below: boolean) => void;
  step: (by: -1 | 1) => void;
}

const STEPS: Record<string, -1 | 1> = { ArrowUp: -1, ArrowDown: 1 };

function Row({ jobId, one, settings, line, drag, end, hover, step }: RowProps) {
  const change = useChangeSetting(jobId);
  const [form, setForm] = useState(false);
  const put = (changed: Changed, done?: () => void) => {
    const { name, pressures, gentler_than, passes, blade } = { ...one, ...changed };
    change.mutate(
      { name: one.name, changed: { name, pressures, gentler_than, passes, blade, seen: [] } },
      done ? { onSuccess: done } : {},
    );
  };
  const byKey = (event: KeyboardEvent) => {
    const by = STEPS[event.key];
    if (!by) return;
    event.preventDefault();
    step(by);
  };
  const several = settings.settings.length > 1;
  return (
    <li
      className={`${COLUMNS} items-center gap-y-1 py-1.5 ${
        line === 'above' ? 'border-t-2 border-kingfisher' : 'border-t border-rule'
      } ${line === 'below' ? 'shadow-[0_2px_0_var(--kingfisher)]' : ''}`}
      onDragOver={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        hover(event.clientY > box.top + box.height / 2);
      }}
    >
      {several ? (
        <span
          role="button"
          tabIndex={0}
          draggable
          className="cursor-grab text-lg leading-none text-soft"
          aria-label={`Move ${one.name}: up is gentler, down is harder`}
          onKeyDown={byKey}
          onDragStart={(event) => {
            event.dataTransfer.setData('text/plain', one.name);
            event.dataTransfer.effectAllowed = 'move';
            drag();
          }}
          onDragEnd={end}
        >
          ⠿
        </span>
      ) : (
        <span />
      )}
      <span className="min-w-0">
        <b className="block break-words">{one.name}</b>
        <span className="block text-sm text-soft">
          {one.seen.length ? one.seen[one.seen.length - 1] : 'not tried yet'}
          {one.passes > 1 && `; ${one.passes} passes by itself`}
          {one.blade && `; ${one.blade}° blade`}
          {one.gentler_than.length > 0 && `; ${said(one.gentler_than)}`}
        </span>
      </span>
      <span className="flex flex-col gap-1">
        {one.placed.map((placed) => {
          const chosen =
            settings.proposal?.setting === one.name && settings.proposal.pressure === placed.pressure;
          return (
            <Bar
              key={placed.pressure ?? 'none'}
              placed={placed}
              chosen={chosen}
              seen={one.seen.length > 0}
              label={`${one.name}${placed.pressure ? `, ${placed.pressure} pressure` : ''}: good in ${placed.usable_words} of 100`}
            />
          );
        })}
      </span>
      <span className="flex flex-col gap-1">
        {one.placed.map((placed) => (
          <span key={placed.pressure ?? 'none'} className="figure leading-5">
            {placed.usable_words}
          </span>
        ))}
      </span>
      <Choose
        name="Change"
        label={`Change ${one.name}`}
        choices={[
          {
            words: 'It can be pressed less or more',
            chosen: one.pressures.length > 0,
            do: () => put({ pressures: one.pressures.length ? [] : EVERY_PRESSURE }),
          },
          { words: 'Its name, passes and blade', do: () => setForm(true) },
          ...(one.gentler_than.length > 0
            ? [{ words: 'Forget its place in the order', do: () => put({ gentler_than: [] }) }]
            : []),
          { words: 'Take it away', do: () => change.mutate({ name: one.name, changed: null }) },
        ]}
      />
      {form && (
        <SettingForm
          one={one}
          most={settings.most_passes}
          error={change.error?.message}
          keep={(changed) => put(changed, () => setForm(false))}
          close={() => setForm(false)}
        />
      )}
    </li>
  );
}

/** What its maker said of it in few words: the rows show the order itself. */
const said = (others: readonly string[]) =>
  `gentler than ${others.length > 2 ? `${others.length} others` : others.join(' and ')}`;

interface BarProps {
  placed: NamedSetting['placed'][number];
  chosen: boolean;
  seen: boolean;
  label: string;
}

function Bar({ placed, chosen, seen, label }: BarProps) {
  const colour = chosen ? 'var(--kingfisher)' : 'var(--soft)';
  const at = (share: number) => `${Math.min(1, Math.max(0, share)) * 100}%`;
  return (
    <span role="img" aria-label={label} className="relative flex h-5 items-center gap-2">
      <span className="absolute inset-x-0 h-px bg-rule" />
      <span
        className="absolute h-1.5 rounded-full"
        style={{
          left: at(placed.low),
          width: at(placed.high - placed.low),
          background: colour,
          opacity: seen ? 1 : 0.45,
        }}
      />
      <span
        className="absolute size-3 -translate-x-1/2 rounded-full"
        style={{ left: at(placed.middle), background: colour }}
      />
      {placed.pressure && (
        <span
          className="absolute text-sm leading-none text-soft"
          style={
            placed.high > 0.72
              ? { right: `calc(${at(1 - placed.low)} + 8px)` }
              : { left: `calc(${at(placed.high)} + 8px)` }
          }
        >
          {placed.pressure}
        </span>
      )}
    </span>
  );
}
