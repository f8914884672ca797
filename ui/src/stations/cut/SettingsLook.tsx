/** The settings of the machine's own list: what to choose, what each is believed to do, and several typed at once. */
import { useState } from 'react';

import { type Cut, EVERY_PRESSURE, type Settings, useSettings, useTypeSettings } from '../../api/cut';
import { Button } from '../../kit/Button';
import { Tick } from '../../kit/Tick';
import { Loaded } from '../../look/Loaded';
import { SettingRows } from './SettingRows';
import { TestCut } from './TestCut';

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
              {settings.settings.length > 0 && <SettingRows jobId={jobId} settings={settings} />}
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
            ? 'Nothing in your list is left to try'
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
        type.mutate({ lines, pressures: pressed ? EVERY_PRESSURE : [] }, { onSuccess: () => setLines('') });
      }}
    >
      <label className="flex flex-col gap-1">
        <b>{first ? 'Type in the settings from your machine’s list that might suit' : 'More settings'}</b>
        <span className="text-sm text-soft">
          One per line, spelled as in the list, in any order: those for labels, vinyl, card and whatever you
          use often.
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
