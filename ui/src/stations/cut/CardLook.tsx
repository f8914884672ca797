import { Link } from 'wouter';

import { useBench } from '../../api/cut';
import { Button } from '../../kit/Button';

/** The bench card as it is printed: everything to do at the machine, on one page. */
export function CardLook({ jobId, title, version }: { jobId: number; title: string; version: string }) {
  const steps = useBench(jobId).data ?? [];
  return (
    <div className="absolute inset-0 overflow-y-auto p-4" tabIndex={0} aria-label="Bench card">
      <div className="mx-auto flex max-w-[56rem] flex-col gap-3">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <p>Take it to the machine on paper, or open it on your phone there.</p>
          <span className="flex items-center gap-4">
            <Link href={`/jobs/${jobId}/bench`} className="font-bold text-kingfisher underline">
              Step by step
            </Link>
            <Button
              look="main"
              onClick={() => {
                window.location.href = `/api/jobs/${jobId}/bench-card.pdf`;
              }}
            >
              Bench card (PDF)
            </Button>
          </span>
        </div>
        <article className="panel grid grid-cols-[1fr_auto] gap-5 p-6 max-[64rem]:grid-cols-1">
          <div className="flex flex-col gap-3">
            <h2 className="font-head text-xl font-bold">{title}</h2>
            <ol className="flex flex-col gap-3">
              {steps.map((step, index) => (
                <li key={`${step.key}-${index}`}>
                  <h3 className="font-bold">
                    {index + 1}. {step.do}
                  </h3>
                  {step.figures.map((figure) => (
                    <p key={figure} className="figure pl-5 font-bold">
                      {figure}
                    </p>
                  ))}
                  <ul className="list-disc pl-9 text-sm">
                    {step.lines.map((line) => (
                      <li key={line}>{line}</li>
                    ))}
                  </ul>
                </li>
              ))}
            </ol>
          </div>
          <img
            src={`/api/jobs/${jobId}/loading.svg?of=${version}`}
            alt="How the sheet is loaded: its corner, which way up and which way in"
            className="w-64 self-start rounded-[6px] bg-white"
          />
        </article>
      </div>
    </div>
  );
}
