import { useEffect, useState } from 'react';
import { Link, useSearch } from 'wouter';

import { type Diagnosis, useDiagnosis, useDiagnosisStart, useFoundCause, useFoundSeen } from '../api/ledger';
import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';
import { SymptomPicture } from '../look/SymptomPicture';
import { Explained } from '../look/Explained';

/** What was seen and is known, the causes with their chances, and the check that is worth its minutes. */
export default function WrongPage() {
  const query = new URLSearchParams(useSearch());
  const run = Number(query.get('run')) || null;
  const job = Number(query.get('job')) || null;
  const start = useDiagnosisStart(run, job);
  useEffect(() => {
    document.title = 'What went wrong? · Vamper';
  }, []);
  return (
    <main className="mx-auto flex min-h-full max-w-6xl flex-col gap-4 px-6 py-5 max-[40rem]:px-4">
      <header className="flex flex-wrap items-center gap-5">
        <Link href="/" className="font-bold text-kingfisher underline">
          All jobs
        </Link>
        <Link href="/ledger" className="font-bold text-kingfisher underline">
          Ledger
        </Link>
        <Link href="/practise" className="font-bold text-kingfisher underline">
          Practise
        </Link>
      </header>
      <h1 className="font-head text-2xl leading-tight font-bold">What went wrong?</h1>
      {start.error && <p className="text-rowan">{asSentence(start.error.message)}</p>}
      {start.data && <Asking key={`${run}.${job}`} start={start.data} run={run} />}
    </main>
  );
}

interface AskingProps {
  start: NonNullable<ReturnType<typeof useDiagnosisStart>['data']>;
  run: number | null;
}

function Asking({ start, run }: AskingProps) {
  const [seen, setSeen] = useState(start.seen);
  const [facts, setFacts] = useState(start.known);
  const [checked, setChecked] = useState<Record<string, boolean>>({});
  const found = useDiagnosis({ seen, facts, checked }).data;
  const toggle = (list: string[], key: string) =>
    list.includes(key) ? list.filter((one) => one !== key) : [...list, key];
  const see = (key: string) => {
    setSeen(toggle(seen, key));
    setChecked({});
  };
  return (
    <div className="grid grid-cols-[21rem_minmax(0,1fr)] items-start gap-6 max-[60rem]:grid-cols-1">
      <div className="flex flex-col gap-4">
        {start.title && <p className="font-bold">{start.title}</p>}
        {seen.length > 0 && (
          <Ticks title="What do you see?" all={start.symptoms} ticked={seen} pictures toggle={see} />
        )}
        <Ticks
          title="What is known"
          all={start.facts}
          ticked={facts}
          toggle={(key) => setFacts(toggle(facts, key))}
        />
      </div>
      {seen.length === 0 || !found ? (
        <Looks all={start.symptoms} see={see} />
      ) : (
        <Answer
          found={found}
          checked={checked}
          answer={(key, yes) => setChecked({ ...checked, [key]: yes })}
          again={() => setChecked({})}
          run={run}
        />
      )}
    </div>
  );
}

/** Everything that can be seen, as pictures; the first one that is pressed begins. */
function Looks({ all, see }: { all: { key: string; words: string }[]; see: (key: string) => void }) {
  const [words, setWords] = useState('');
  const meant = useFoundSeen(words);
  const shown = all.filter((one) => !meant || meant.includes(one.key));
  return (
    <section aria-label="What do you see?" className="flex flex-col gap-3 max-[60rem]:order-first">
      <p>Press what you see. One is enough to start with; more make the answer surer.</p>
      <input
        type="search"
        className="field"
        aria-label="Find what you see"
        placeholder="Find it: bubbles, iron-on, misaligned …"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {shown.length === 0 && (
        <p className="text-soft">Nothing matches that. Try other words, or look through the whole list.</p>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-2">
        {shown.map((one) => (
          <li key={one.key}>
            <button
              type="button"
              className="panel flex h-full w-full items-center gap-2 p-2 text-left text-sm leading-snug hover:border-kingfisher"
              onClick={() => see(one.key)}
            >
              <SymptomPicture symptom={one.key} />
              {one.words}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface TicksProps {
  title: string;
  all: { key: string; words: string }[];
  ticked: string[];
  pictures?: boolean;
  toggle: (key: string) => void;
}

/** What is ticked first, all others below. */
function Ticks({ title, all, ticked, pictures = false, toggle }: TicksProps) {
  const [words, setWords] = useState('');
  const meant = useFoundSeen(words);
  const shown = all.filter((one) => !ticked.includes(one.key) && (!meant || meant.includes(one.key)));
  return (
    <fieldset className="panel flex flex-col gap-1 p-3">
      <legend className="sr-only">{title}</legend>
      <h2 aria-hidden className="font-bold">
        {title}
      </h2>
      {all
        .filter((one) => ticked.includes(one.key))
        .map((one) => (
          <Tick key={one.key} one={one} picture={pictures} on set={() => toggle(one.key)} />
        ))}
      <input
        className="field my-1"
        aria-label={`Find in: ${title}`}
        placeholder="find"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <div
        className={`flex flex-col gap-0.5 overflow-y-auto ${pictures ? 'max-h-96' : 'max-h-56'}`}
        tabIndex={0}
        aria-label={title}
      >
        {shown.map((one) => (
          <Tick key={one.key} one={one} picture={pictures} on={false} set={() => toggle(one.key)} />
        ))}
      </div>
    </fieldset>
  );
}

interface TickProps {
  one: { key: string; words: string };
  picture: boolean;
  on: boolean;
  set: () => void;
}

function Tick({ one, picture, on, set }: TickProps) {
  return (
    <label className="flex items-center gap-2 text-sm leading-snug">
      <input type="checkbox" className="shrink-0 accent-kingfisher" checked={on} onChange={set} />
      {picture && <SymptomPicture symptom={one.key} />}
      {one.words}
    </label>
  );
}

interface AnswerProps {
  found: Diagnosis;
  checked: Record<string, boolean>;
  answer: (key: string, yes: boolean) => void;
  again: () => void;
  run: number | null;
}

function Answer({ found, checked, answer, again, run }: AnswerProps) {
  const cause = useFoundCause();
  const check = found.next_check;
  return (
    <div className="flex flex-col gap-4">
      {check && (
        <section aria-label="The next check" className="panel flex flex-col gap-2.5 p-4">
          <p className="text-sm text-soft">
            This tells most for its time:{' '}
            {check.minutes < 1 ? 'half a minute' : `about ${Math.round(check.minutes)} min`}
          </p>
          <h2 className="font-head text-xl leading-snug font-bold">{check.ask}</h2>
          <span className="flex flex-wrap gap-2">
            <Button look="main" className="min-w-24" onClick={() => answer(check.key, true)}>
              Yes
            </Button>
            <Button className="min-w-24" onClick={() => answer(check.key, false)}>
              No
            </Button>
          </span>
        </section>
      )}
      {!check && (
        <p className="panel p-4" role="status">
          No check is left that would tell more. Go by the first answer; if its remedy does not help, it is
          something else.
        </p>
      )}
      {found.asked.length > 0 && (
        <section aria-label="Checked" className="text-sm">
          <ul>
            {found.asked.map((one) => (
              <li key={one.key}>
                {one.words} <b>{checked[one.key] ? 'Yes' : 'No'}</b>
              </li>
            ))}
          </ul>
          <Button look="bare" onClick={again}>
            Clear my answers
          </Button>
        </section>
      )}
      <ol className="flex flex-col gap-3" aria-label="Causes">
        {found.suspects.map((one, place) => (
          <li
            key={one.key}
            className="grid grid-cols-[4rem_minmax(0,1fr)] gap-x-3 border-t border-rule pt-2.5"
          >
            <span className="figure text-right text-lg font-bold">{percent(one.chance)}</span>
            <div className="flex min-w-0 flex-col gap-1">
              <b className="leading-tight">{one.text}</b>
              <span aria-hidden className="h-1.5 w-full max-w-md overflow-hidden rounded-full bg-tray">
                <span className="block h-full bg-kingfisher" style={{ width: `${one.chance * 100}%` }} />
              </span>
              {one.why.length > 0 && (
                <span className="text-sm text-soft">
                  <Explained text={one.why.join('; ')} />
                </span>
              )}
              {(place === 0 || one.chance > 0.2) && (
                <>
                  <span className="text-sm">
                    <Explained text={one.remedy} />
                  </span>
                  <span className="text-sm">
                    <b>What can be saved:</b> {one.keep}
                  </span>
                </>
              )}
              {run !== null && (
                <Button
                  look={place === 0 ? 'act' : 'bare'}
                  className="mt-1 self-start"
                  disabled={cause.isPending}
                  onClick={() => cause.mutate({ run, cause: one.key })}
                >
                  {cause.variables?.cause === one.key && cause.isSuccess ? 'Noted' : 'It was this'}
                </Button>
              )}
            </div>
          </li>
        ))}
      </ol>
    </div>
  );
}

const percent = (chance: number) => (chance < 0.01 ? '< 1 %' : `${Math.round(chance * 100)} %`);
