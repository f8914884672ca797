/** The settings of the machine's own list: what to choose, what each is believed to do, and several typed at once. */
import { useState } from 'react';

import {
  type Cut,
  type NamedSetting,
  type Pressure,
  type Settings,
  useChangeSetting,
  useSettings,
  useTypeSettings,
} from '../../api/cut';
import { Button } from '../../kit/Button';
import { Choose } from '../../kit/Choose';
import { Tick } from '../../kit/Tick';
import { Loaded } from '../../look/Loaded';
import { TestCut } from './TestCut';

const EVERY: Pressure[] = ['less', 'usual', 'more'];

interface Props {
  jobId: number;
  cut: Cut;
  practice: boolean;
}

export function SettingsLook({ jobId, cut, practice }: Props) {
  return (
    <div className="absolute inset-0 overflow-y-auto p-4" tabIndex={0} aria-label="Settings of the machine">
      <div className="mx-auto flex max-w-[54rem] flex-col gap-4">
        <Loaded query={useSettings(jobId, cut)} doing="Weighing the settings">
          {(settings) => (
            <>
              <Proposed settings={settings} />
              {settings.settings.length > 0 && (
                <TestCut key={told(settings)} jobId={jobId} settings={settings} practice={practice} />
              )}
              {settings.settings.length > 0 && <Rows jobId={jobId} settings={settings} />}
              <TypeThem jobId={jobId} first={settings.settings.length === 0} />
            </>
          )}
        </Loaded>
      </div>
    </div>
  );
}

/** A new answer begins with what is proposed then. */
const told = (settings: Settings) => settings.told[0]?.id ?? 0;

function Proposed({ settings }: { settings: Settings }) {
  const { proposal } = settings;
  return (
    <section aria-label="What to choose" className="flex flex-col gap-1">
      <h2 className="font-head text-2xl leading-tight font-bold">
        {proposal
          ? `Choose ${proposal.words}`
          : settings.settings.length
            ? 'Nothing of your list is left'
            : 'What to look for'}
      </h2>
      {proposal ? (
        <p>
          Good in <b className="figure">{settings.usable_words} of 100</b> if you look before unloading,{' '}
          <span className="figure">{settings.at_first_words}</span> at the first go
          {settings.worked ? '. It was clean on this stock before.' : '.'}
        </p>
      ) : (
        <p className="max-w-[44rem]">{settings.look_for}</p>
      )}
    </section>
  );
}

/** Each setting as a row, what is believed of it as a bar from gentle to hard. */
function Rows({ jobId, settings }: { jobId: number; settings: Settings }) {
  return (
    <section aria-label="Your settings" className="flex flex-col gap-1">
      <div className="grid grid-cols-[minmax(9rem,16rem)_1fr_5rem_auto] items-end gap-x-3 text-sm text-soft">
        <span>Your settings</span>
        <span className="flex justify-between">
          <span>presses gently</span>
          <span>hard</span>
        </span>
        <span>good in 100</span>
        <span className="w-20" />
      </div>
      <ul className="flex flex-col gap-1">
        {settings.settings.map((one) => (
          <Row key={one.name} jobId={jobId} one={one} settings={settings} />
        ))}
      </ul>
    </section>
  );
}

function Row({ jobId, one, settings }: { jobId: number; one: NamedSetting; settings: Settings }) {
  const change = useChangeSetting(jobId);
  const put = (changed: Partial<NamedSetting>) => {
    const { name, pressures, gentler_than, passes, blade } = { ...one, ...changed };
    change.mutate({ name: one.name, changed: { name, pressures, gentler_than, passes, blade, seen: [] } });
  };
  const others = settings.settings.filter((other) => other.name !== one.name);
  return (
    <li className="grid grid-cols-[minmax(9rem,16rem)_1fr_5rem_auto] items-center gap-x-3 gap-y-1 border-t border-rule py-1.5">
      <span className="min-w-0">
        <b className="block break-words">{one.name}</b>
        <span className="block text-sm text-soft">
          {one.seen.length ? one.seen[one.seen.length - 1] : 'not tried yet'}
          {one.gentler_than.length > 0 && `; gentler than ${one.gentler_than.join(', ')}`}
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
            do: () => put({ pressures: one.pressures.length ? [] : EVERY }),
          },
          ...others.map((other) => {
            const said = one.gentler_than.includes(other.name);
            return {
              words: `It is gentler than “${other.name}”`,
              chosen: said,
              do: () =>
                put({
                  gentler_than: said
                    ? one.gentler_than.filter((name) => name !== other.name)
                    : [...one.gentler_than, other.name],
                }),
            };
          }),
          { words: 'Take it away', do: () => change.mutate({ name: one.name, changed: null }) },
        ]}
      />
    </li>
  );
}

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
            placed.high > 0.85
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

/** Several settings at once, one a line, in any order. */
function TypeThem({ jobId, first }: { jobId: number; first: boolean }) {
  const type = useTypeSettings(jobId);
  const [lines, setLines] = useState('');
  const [pressed, setPressed] = useState(true);
  return (
    <form
      className="panel flex flex-col gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        type.mutate({ lines, pressures: pressed ? EVERY : [] }, { onSuccess: () => setLines('') });
      }}
    >
      <label className="flex flex-col gap-1">
        <b>{first ? 'Type the settings of your machine’s list that come near' : 'More settings'}</b>
        <span className="text-sm text-soft">
          One a line, as they stand there, in any order: those for labels, vinyl, card and what you use often.
        </span>
        <textarea
          className="field min-h-20"
          rows={first ? 5 : 2}
          value={lines}
          onChange={(event) => setLines(event.target.value)}
        />
      </label>
      <Tick on={pressed} label="There I can choose less, usual or more pressure" set={setPressed} />
      <Button
        type="submit"
        look={first ? 'main' : 'act'}
        className="self-start"
        disabled={!lines.trim() || type.isPending}
      >
        Add them
      </Button>
    </form>
  );
}
