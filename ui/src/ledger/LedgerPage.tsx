import { useEffect, useRef } from 'react';
import { Link } from 'wouter';

import { CSV_URL, JSON_URL, useLedger, useTakeRuns } from '../api/ledger';
import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';
import { MissPlot } from './MissPlot';
import { RecipeTable } from './RecipeTable';
import { RunList } from './RunList';
import { ShelfPart } from './ShelfPart';

const FILE =
  'inline-flex items-center rounded-[6px] border border-rule bg-paper px-3 py-1.5 text-sm leading-tight hover:border-kingfisher';

/** What worked, how sure that is, and every run that says so. */
export default function LedgerPage() {
  const query = useLedger();
  const ledger = query.data;
  const take = useTakeRuns();
  const picker = useRef<HTMLInputElement>(null);
  useEffect(() => {
    document.title = 'Ledger · Vamper';
  }, []);
  return (
    <main className="mx-auto flex min-h-full max-w-6xl flex-col gap-6 px-6 py-5">
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
          <Button look="bare" onClick={() => picker.current?.click()}>
            Take runs in from a file
          </Button>
          <input
            ref={picker}
            type="file"
            accept=".csv,.json"
            className="sr-only"
            tabIndex={-1}
            aria-label="A table of runs"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) take.mutate(file);
              event.target.value = '';
            }}
          />
        </span>
      </header>
      <h1 className="font-head text-2xl leading-tight font-bold">Ledger</h1>
      {query.error && <p className="text-rowan">{asSentence(query.error.message)}</p>}
      {take.data && (
        <p className="panel p-3" role="status">
          {take.data.taken} runs came in; {take.data.known} were here already.
        </p>
      )}
      {ledger && ledger.total === 0 && (
        <p className="panel max-w-xl p-5">
          No run is logged yet. Hand off a job, make its sheet, and answer the one question at the top of the
          job: how did it come out?
        </p>
      )}
      {ledger && ledger.total > 0 && (
        <>
          <RecipeTable recipes={ledger.recipes} />
          <div className="grid grid-cols-[minmax(0,1fr)_17rem] items-start gap-6 max-[60rem]:grid-cols-1">
            <RunList ledger={ledger} />
            {ledger.machines.length > 0 && (
              <section aria-label="Where cuts landed" className="flex flex-col gap-4">
                <h2 className="font-head text-lg font-bold">Where cuts landed</h2>
                {ledger.machines.map((machine) => (
                  <MissPlot key={`${machine.cutter}.${machine.simulated}`} machine={machine} />
                ))}
              </section>
            )}
          </div>
        </>
      )}
      <ShelfPart />
    </main>
  );
}
