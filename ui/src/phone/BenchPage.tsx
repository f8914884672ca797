import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'wouter';

import { ask, client } from '../api/client';
import { asSentence } from '../kit/words';
import { SheetGlance, useGlance } from '../look/SheetGlance';
import { useJobs } from '../api/jobs';

const BIG = 'flex w-full items-center justify-center rounded-[6px] px-4 py-5 text-xl font-bold leading-tight';

/** One job at the bench: one step, one picture, one large button. */
export default function BenchPage({ jobId }: { jobId: number }) {
  const [at, setAt] = useState(0);
  const job = useJobs().data?.find((one) => one.id === jobId);
  const glance = useGlance(job);
  const steps = useQuery({
    queryKey: ['job', jobId, 'bench'],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}/bench', { params: { path: { job_id: jobId } } })),
  });
  useEffect(() => {
    document.title = `${job?.title ?? 'Bench'} · Vamper`;
  }, [job]);
  const all = steps.data ?? [];
  const step = all[at];
  return (
    <main className="mx-auto flex min-h-full max-w-lg flex-col gap-4 p-4">
      <p className="flex justify-between gap-3 text-soft">
        <Link href="/phone" className="font-bold whitespace-nowrap text-kingfisher underline">
          All jobs
        </Link>
        <span className="truncate">{job?.title}</span>
        <span className="whitespace-nowrap">{step && `${at + 1} of ${all.length}`}</span>
      </p>
      {steps.error && <p className="text-lg text-rowan">{asSentence(steps.error.message)}</p>}
      {steps.data?.length === 0 && <p className="text-lg">Nothing lies on a sheet yet.</p>}
      {steps.data && !step && steps.data.length > 0 && (
        <h1 className="font-head text-3xl font-bold">That was all of it.</h1>
      )}
      {step && (
        <section aria-live="polite" className="flex flex-col gap-3">
          <h1 className="font-head text-3xl font-bold">{step.do}</h1>
          {step.figures.map((figure) => (
            <p key={figure} className="figure text-2xl font-bold">
              {figure}
            </p>
          ))}
          <ul className="flex list-disc flex-col gap-1.5 pl-6 text-xl">
            {step.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      )}
      <div className="flex min-h-40 flex-1 items-center justify-center">
        {step?.key === 'load' && (
          <img
            src={`/api/jobs/${jobId}/loading.svg`}
            alt="How the sheet is loaded: its corner, which way up and which way in"
            className="h-72 rounded-[6px] bg-white"
          />
        )}
        {step?.key !== 'load' && glance.data && (
          <span className="h-56 w-56">
            <SheetGlance glance={glance.data} jobId={jobId} />
          </span>
        )}
      </div>
      {steps.data && steps.data.length > 0 && (
        <div className="sticky bottom-0 flex flex-col gap-2 bg-table pb-2">
          <button
            type="button"
            className={`${BIG} bg-kingfisher text-on-kingfisher`}
            onClick={() => setAt(step ? at + 1 : 0)}
          >
            {step ? 'Done' : 'From the beginning'}
          </button>
          {at > 0 && (
            <button type="button" className="py-2 text-lg underline" onClick={() => setAt(at - 1)}>
              One step back
            </button>
          )}
        </div>
      )}
      <p className="mt-auto pt-4">
        <Link href={`/wrong?job=${jobId}`} className="font-bold text-kingfisher underline">
          What went wrong?
        </Link>
      </p>
    </main>
  );
}
