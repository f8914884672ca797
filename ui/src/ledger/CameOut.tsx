import { useState } from 'react';
import { Link } from 'wouter';

import { Problem } from '../api/client';
import {
  type CameOutQuestion,
  type LaidSheet,
  type Spoilt,
  type SpoiltPiece,
  useCameOut,
  useLogOutcome,
} from '../api/ledger';
import type { View } from '../api/view';
import { Button } from '../kit/Button';
import { Window } from '../kit/Window';
import { asSentence } from '../kit/words';
import { WasSet, type WasSetValue } from '../look/WasSet';
import { WasRead, type WasReadValue } from '../look/WasRead';
import { FromPhoto } from './FromPhoto';
import { SpoiltSheet } from './SpoiltSheet';

/** After a hand-off, one question: how did the sheet come out? */
export function CameOut({ view }: { view: View }) {
  const handed = view.job.handed_off_at;
  const question = useCameOut(view.job.id, handed ?? '', handed !== null).data;
  const log = useLogOutcome(view.job.id);
  // The window stays with its sheet, also when that is logged and no longer asked about.
  const [tapping, setTapping] = useState<LaidSheet | null>(null);
  const [later, setLater] = useState(false);
  const [wasSet, setWasSet] = useState<WasSetValue>('as proposed');
  const [read, setRead] = useState<WasReadValue>(null);
  const [typed, setLot] = useState<string | null>(null);
  const open = question?.sheets.find((sheet) => sheet.logged === null);
  if (!question) return null;
  const lot = typed ?? question.lots[0] ?? '';
  const window = tapping && (
    <Window wide title={`What happened on sheet ${tapping.number}?`} open close={() => setTapping(null)}>
      <Tapping
        question={question}
        sheet={tapping}
        jobId={view.job.id}
        lot={lot}
        wasSet={wasSet}
        setWasSet={setWasSet}
        read={read}
        setRead={setRead}
        close={() => setTapping(null)}
      />
    </Window>
  );
  const say = (sheet: LaidSheet, came_out: 'good' | 'not-run') =>
    log.mutate(
      {
        sheet: sheet.number,
        sheets: question.copies,
        came_out,
        spoilt: [],
        note: '',
        lot,
        again: false,
        was_set: wasSet,
        read: came_out === 'not-run' ? null : read,
      },
      { onSuccess: () => setRead(null) },
    );
  return (
    <>
      {question.words && open && !later && (
        <section
          aria-label="How it came out"
          className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-rule bg-tray px-5 py-1.5"
        >
          <b>{question.words}</b>
          <Button look="act" disabled={log.isPending} onClick={() => say(open, 'good')}>
            All good
          </Button>
          <Button disabled={log.isPending} onClick={() => setTapping(open)}>
            Some spoiled
          </Button>
          <Button look="bare" disabled={log.isPending} onClick={() => say(open, 'not-run')}>
            Not run
          </Button>
          <label className="ml-auto flex items-center gap-1.5 text-sm">
            Lot
            <input
              className="field w-28"
              list="lots"
              value={lot}
              maxLength={100}
              placeholder="not said"
              onChange={(event) => setLot(event.target.value)}
            />
            <datalist id="lots">
              {question.lots.map((one) => (
                <option key={one} value={one} />
              ))}
            </datalist>
          </label>
          <Button look="bare" onClick={() => setLater(true)}>
            Ask me later
          </Button>
          <div className="flex w-full flex-wrap items-center gap-x-8 gap-y-1.5">
            {question.asks_read && <WasRead value={read} onChange={setRead} />}
            <WasSet proposed={question.proposed} value={wasSet} onChange={setWasSet} />
          </div>
          <Refused log={log} />
        </section>
      )}
      {window}
    </>
  );
}

/** Why it was not logged, and the way on for a sheet that was made once more. */
function Refused({ log }: { log: ReturnType<typeof useLogOutcome> }) {
  if (!log.error || !log.variables) return null;
  const asked = log.variables;
  return (
    <p className="flex w-full flex-wrap items-center gap-3 text-sm text-rowan">
      {asSentence(log.error.message)}
      {log.error instanceof Problem && log.error.where === 'again' && (
        <Button onClick={() => log.mutate({ ...asked, again: true })}>It was made once more</Button>
      )}
    </p>
  );
}

interface TappingProps {
  question: CameOutQuestion;
  sheet: LaidSheet;
  jobId: number;
  lot: string;
  wasSet: WasSetValue;
  setWasSet: (value: WasSetValue) => void;
  read: WasReadValue;
  setRead: (value: WasReadValue) => void;
  close: () => void;
}

/** The spoilt pieces are tapped on the sheet's own drawing, each as what happened to it. */
function Tapping({ question, sheet, jobId, lot, wasSet, setWasSet, read, setRead, close }: TappingProps) {
  const log = useLogOutcome(jobId);
  const [what, setWhat] = useState<Spoilt>(question.spoilt[0]?.key ?? 'not-through');
  const [spoilt, setSpoilt] = useState<Record<number, SpoiltPiece>>({});
  const [note, setNote] = useState('');
  const logged = log.data?.id ?? null;
  const pieces = Object.values(spoilt);
  const words = question.spoilt.find((one) => one.key === what)?.words ?? '';
  const tap = (placement: number) => {
    const { [placement]: there, ...others } = spoilt;
    setSpoilt(there?.what === what ? others : { ...others, [placement]: { placement, what, off: null } });
  };
  if (logged !== null)
    return (
      <div className="flex flex-col items-start gap-3">
        <p>
          Logged. The settings of this stock follow from it. {pieces.length} of {sheet.pieces.length} pieces
          were spoilt.
        </p>
        <Link href={`/wrong?run=${logged}`} className="font-bold text-kingfisher underline">
          Find out what went wrong
        </Link>
        <Button onClick={close}>Back to the job</Button>
      </div>
    );
  return (
    <div className="flex flex-col gap-3">
      <FromPhoto
        jobId={jobId}
        sheet={sheet}
        simulated={question.simulated}
        found={(pieces) => setSpoilt(Object.fromEntries(pieces.map((one) => [one.placement, one])))}
      />
      <div role="group" aria-label="What happened" className="flex flex-wrap gap-1.5">
        {question.spoilt.map((one) => (
          <Button
            key={one.key}
            look={one.key === what ? 'act' : 'plain'}
            aria-pressed={one.key === what}
            onClick={() => setWhat(one.key)}
          >
            {one.words}
          </Button>
        ))}
      </div>
      <p className="text-sm text-soft">
        {what === 'off'
          ? 'Drag each piece the way its cut line lies from the print; or tap it, where you cannot say how far.'
          : 'Tap each piece that came out so; tap it again to take it back.'}
      </p>
      <Button
        look="bare"
        className="self-start"
        onClick={() =>
          setSpoilt(
            Object.fromEntries(
              sheet.pieces.map(({ placement }) => [placement, { placement, what, off: null }]),
            ),
          )
        }
      >
        {`All ${sheet.pieces.length} of them: ${words}`}
      </Button>
      <SpoiltSheet
        question={question}
        sheet={sheet}
        spoilt={spoilt}
        what={what}
        tap={tap}
        drag={(placement, dx_mm, dy_mm) =>
          setSpoilt({ ...spoilt, [placement]: { placement, what: 'off', off: { dx_mm, dy_mm, pieces: 1 } } })
        }
      />
      {question.asks_read && <WasRead value={read} onChange={setRead} />}
      <WasSet proposed={question.proposed} value={wasSet} onChange={setWasSet} />
      <label className="flex flex-col gap-0.5 text-sm">
        Anything to remember
        <input
          className="field"
          value={note}
          maxLength={400}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      <Refused log={log} />
      <Button
        look="main"
        className="self-start"
        disabled={pieces.length === 0 || log.isPending}
        onClick={() =>
          log.mutate({
            sheet: sheet.number,
            sheets: question.copies,
            came_out: 'spoiled',
            spoilt: pieces,
            note,
            lot,
            again: false,
            was_set: wasSet,
            read,
          })
        }
      >
        {`Log ${pieces.length} spoilt ${pieces.length === 1 ? 'piece' : 'pieces'}`}
      </Button>
    </div>
  );
}
