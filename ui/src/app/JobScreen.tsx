import { useQueryClient } from '@tanstack/react-query';
import { Suspense, useEffect, useRef, useState } from 'react';
import { Link, useLocation } from 'wouter';

import { readAgain } from '../api/again';
import type { StationKey } from '../api/client';
import { useView, type View } from '../api/view';
import { type Changer, useChange } from '../api/changes';
import { useBeginPacking, useJobAction, usePackingEvents, useStep } from '../api/jobs';
import { Button } from '../kit/Button';
import { useUnit } from '../kit/units';
import { fetchStation, fetchStations, STATIONS } from './stations';
import { ArtPicker } from '../look/ArtPicker';
import { CameOut } from '../ledger/CameOut';
import { Brief } from './Brief';
import { Apart, Fallen, NothingHere } from './Fallen';
import { HandOff } from './HandOff';
import { Incoming } from './Incoming';
import { KeysDialog } from './KeysDialog';
import { Logo } from './Logo';
import { useLook } from '../look/shown';
import { useNotices } from '../api/notices';
import { Rail } from './Rail';
import { useKeys } from '../kit/shortcuts';
import { useKeepUnit } from './unit';
import { useUploads } from '../api/uploads';
import { UploadTray } from './UploadTray';

// By then the first station is drawn, and the others can be fetched without keeping it waiting.
const IDLE_MS = 1500;

/** One job: its brief, its stations, and whatever station is open. */
export default function JobScreen({ jobId, station }: { jobId: number; station: StationKey }) {
  const query = useView(jobId);
  usePackingEvents(jobId);
  const change = useChange(jobId);
  const view = query.data;
  fetchStation(station);
  const isThere = view !== undefined;
  useEffect(() => {
    if (!isThere) return;
    const idle = setTimeout(fetchStations, IDLE_MS);
    return () => clearTimeout(idle);
  }, [isThere]);
  useEffect(() => {
    if (view) document.title = `${view.job.document.title} · Vamper`;
  }, [view]);
  if (query.error && !view)
    return (
      <Apart
        title="This job cannot be opened"
        words={query.error.message}
        again={() => void query.refetch()}
      />
    );
  if (!view) return <main className="p-10 text-soft">Opening the job …</main>;
  if (!(station in STATIONS)) return <NothingHere />;
  return <OpenJob view={view} station={station} change={change} />;
}

interface Props {
  view: View;
  station: StationKey;
  change: Changer;
}

function OpenJob({ view, station, change }: Props) {
  const jobId = view.job.id;
  const queries = useQueryClient();
  useBeginPacking(view);
  const picker = useRef<HTMLInputElement>(null);
  const handOff = useRef<HTMLButtonElement>(null);
  const action = useJobAction(jobId);
  const turn = useStep(jobId);
  const addUploads = useUploads((state) => state.add);
  const [, go] = useLocation();
  const [keys, setKeys] = useState(false);
  const showItem = useLook((state) => state.showItem);
  useEffect(() => showItem(null), [jobId, showItem]);

  const add = (files: File[]) => addUploads(jobId, files, () => void readAgain(queries, ['job', jobId]));
  const order = view.stations.map((one) => one.station);
  const step = (by: number) => {
    const next = order[order.indexOf(station) + by];
    if (next) go(`/jobs/${jobId}/${next}`);
  };
  useKeys({
    j: () => step(1),
    k: () => step(-1),
    a: () => picker.current?.click(),
    p: () => action.mutate('pack'),
    s: () => action.mutate('stop'),
    z: () => turn.mutate('undo'),
    'Shift+z': () => turn.mutate('redo'),
    h: () => {
      handOff.current?.focus();
      handOff.current?.click();
    },
    '/': () => document.querySelector<HTMLElement>('[data-strip] button')?.focus(),
    '?': () => setKeys(true),
  });
  const Station = STATIONS[station];
  return (
    <Incoming
      take={add}
      words="Drop to add as designs"
      className={`flex h-full min-h-[40rem] flex-col ${view.job.play ? 'bg-practice' : ''}`}
    >
      {view.job.play && (
        <aside
          aria-label="Practice"
          className="flex items-center gap-3 border-b border-rule bg-paper px-4 py-1 text-sm"
        >
          <b className="text-bracken">Practice</b> Change what you like; nothing of it is real.
          <Link href={`/practise/plays/${view.job.play}`} className="font-bold text-kingfisher underline">
            Back to the lesson
          </Link>
        </aside>
      )}
      <Header
        view={view}
        change={change}
        act={(what) => turn.mutate(what)}
        add={() => picker.current?.click()}
        handOff={handOff}
        keys={() => setKeys(true)}
      />
      <Brief view={view} change={change} />
      <CameOut view={view} />
      <div className="flex min-h-0 flex-1">
        <Rail jobId={jobId} stations={view.stations} current={station} />
        <main className="relative flex min-w-0 flex-1" aria-label={station}>
          <Fallen key={station}>
            <Suspense fallback={<p className="p-5 text-soft">Opening …</p>}>
              <Station view={view} change={change} add={() => picker.current?.click()} />
            </Suspense>
          </Fallen>
          <UploadTray />
        </main>
      </div>
      <ArtPicker picker={picker} take={add} />
      <KeysDialog open={keys} close={() => setKeys(false)} />
    </Incoming>
  );
}

interface HeaderProps {
  view: View;
  change: Changer;
  act: (what: 'undo' | 'redo') => void;
  add: () => void;
  handOff: React.Ref<HTMLButtonElement>;
  keys: () => void;
}

function Header({ view, change, act, add, handOff, keys }: HeaderProps) {
  const unit = useUnit((state) => state.unit);
  const keepUnit = useKeepUnit();
  const kept = useNotices((state) => state.kept);
  useEffect(() => {
    if (kept !== 'not saved') return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [kept]);
  const title = view.job.document.title;
  return (
    <header className="flex items-center gap-3 px-5 py-2">
      <Link href="/" title="All jobs">
        <Logo />
        <span className="sr-only">, all jobs</span>
      </Link>
      <span aria-hidden className="text-soft">
        /
      </span>
      <div className="-m-1 flex min-w-0 flex-1 items-center gap-2 overflow-hidden p-1">
        <h1 className="min-w-0 flex-[2]">
          <input
            key={title}
            aria-label="Title of the job"
            className="w-full truncate rounded-[6px] border border-transparent bg-transparent px-1.5 py-0.5 font-bold hover:border-rule focus:bg-paper"
            defaultValue={title}
            onBlur={(event) => {
              const next = event.target.value.trim();
              if (next && next !== title) change({ label: 'title', changes: { title: next } });
              else event.target.value = title;
            }}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
        </h1>
        <input
          key={`for ${view.job.document.customer}`}
          aria-label="Whom it is for"
          placeholder="for whom?"
          maxLength={200}
          className="min-w-0 flex-1 truncate rounded-[6px] border border-transparent bg-transparent px-1.5 py-0.5 text-soft hover:border-rule focus:bg-paper"
          defaultValue={view.job.document.customer}
          onBlur={(event) => {
            const next = event.target.value.trim();
            if (next !== view.job.document.customer)
              change({ label: 'whom it is for', changes: { customer: next } });
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </div>
      <span
        className={`text-right text-sm ${kept === 'not saved' ? 'font-bold text-rowan' : 'w-14 text-soft'}`}
        role="status"
      >
        {kept === 'not saved' ? 'not saved, trying' : kept}
      </span>
      <Button
        look="bare"
        onClick={() => keepUnit.mutate(unit === 'mm' ? 'in' : 'mm')}
        aria-label={`Unit: ${unit}, change`}
      >
        {unit}
      </Button>
      <Button look="bare" onClick={keys} aria-label="Keys">
        ?
      </Button>
      <Button onClick={() => act('undo')} disabled={!view.job.undo} hotkey="Z" title={view.job.undo ?? ''}>
        Undo
      </Button>
      <Button onClick={() => act('redo')} disabled={!view.job.redo} title={view.job.redo ?? ''}>
        Redo
      </Button>
      <Button onClick={add} hotkey="A">
        Add art
      </Button>
      <HandOff view={view} button={handOff} />
    </header>
  );
}
