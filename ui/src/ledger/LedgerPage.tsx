import { useEffect } from 'react';
import { Link, useLocation, useSearch } from 'wouter';

import { CSV_URL, JSON_URL, type Ledger, useLedger, useTakeRuns } from '../api/ledger';
import { Button } from '../kit/Button';
import { FileButton } from '../kit/FileButton';
import { asSentence } from '../kit/words';
import { CoverTable } from './CoverTable';
import { FinishedPart } from './FinishedPart';
import { MissPlot } from './MissPlot';
import { OffcutPart } from './OffcutPart';
import { OverTime } from './OverTime';
import { RecipeTable } from './RecipeTable';
import { RunList } from './RunList';
import { ShelfPart } from './ShelfPart';

const FILE =
  'inline-flex items-center rounded-[6px] border border-rule bg-paper px-3 py-1.5 text-sm leading-tight hover:border-kingfisher';

const PARTS = [
  ['works', 'What works'],
  ['runs', 'Runs'],
  ['shelf', 'Shelf and prices'],
] as const;

/** What worked and how sure that is, every run that says so, and what lies on the shelf. */
export default function LedgerPage() {
  const query = useLedger();
  const ledger = query.data;
  const take = useTakeRuns();
  const [, go] = useLocation();
  const asked = new URLSearchParams(useSearch()).get('part');
  const part = PARTS.find(([key]) => key === asked)?.[0] ?? 'works';
  useEffect(() => {
    document.title = 'Ledger · Vamper';
  }, []);
  return (
    <main className="mx-auto flex min-h-full max-w-6xl flex-col gap-5 px-6 py-5">
      <header className="flex flex-wrap items-center justify-between gap-3">
        <Link href="/" className="font-bold text-kingfisher underline">
          All jobs
        </Link>
        <span className="flex flex-wrap gap-2">
          <Link href="/wrong" className={FILE}>
            What went wrong?
          </Link>
          <a href={CSV_URL} download className={FILE}>
            Runs as a table
          </a>
          <a href={JSON_URL} download className={FILE}>
            All of it (JSON)
          </a>
          <FileButton
            look="bare"
            words="Take runs in from a file"
            label="A table of runs, or a whole ledger"
            accept=".csv,.json"
            take={(file) => take.mutate(file)}
          />
        </span>
      </header>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <h1 className="font-head text-2xl leading-tight font-bold">Ledger</h1>
        <nav aria-label="Parts of the ledger" className="flex gap-1.5">
          {PARTS.map(([key, words]) => (
            <Button
              key={key}
              look={key === part ? 'act' : 'bare'}
              aria-current={key === part ? 'page' : undefined}
              onClick={() => go(`/ledger?part=${key}`)}
            >
              {words}
              {key === 'runs' && ledger && ledger.due.length > 0 && ` · ${ledger.due.length} to look at`}
            </Button>
          ))}
        </nav>
      </div>
      {query.error && <p className="text-rowan">{asSentence(query.error.message)}</p>}
      {take.data && (
        <p className="panel p-3" role="status">
          {take.data.taken} runs came in; {take.data.known} were here already.
          {take.data.on_shelf > 0 && ` ${take.data.on_shelf} more things are on the shelf.`}
        </p>
      )}
      {ledger && ledger.total === 0 && part !== 'shelf' && (
        <p className="panel max-w-xl p-5">
          No sheet is logged yet. Hand off a job, make its sheet, then answer the question at the top of the
          job: how did it come out?
        </p>
      )}
      {ledger && ledger.total > 0 && part === 'works' && <Works ledger={ledger} />}
      {ledger && ledger.total > 0 && part === 'runs' && <RunList ledger={ledger} />}
      {part === 'shelf' && (
        <>
          <ShelfPart />
          <OffcutPart />
          <FinishedPart />
        </>
      )}
    </main>
  );
}

function Works({ ledger }: { ledger: Ledger }) {
  return (
    <>
      <RecipeTable recipes={ledger.recipes} />
      <CoverTable />
      <OverTime plots={ledger.over_time} />
      {ledger.machines.length > 0 && (
        <section aria-label="Where cuts landed" className="flex flex-col gap-2">
          <h2 className="font-head text-lg font-bold">Where cuts landed</h2>
          <div className="grid grid-cols-[repeat(auto-fill,minmax(15rem,17rem))] gap-5">
            {ledger.machines.map((machine) => (
              <MissPlot key={`${machine.cutter}.${machine.simulated}`} machine={machine} />
            ))}
          </div>
        </section>
      )}
    </>
  );
}
