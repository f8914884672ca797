import { showSize, useUnit } from '../../kit/units';
import { Findings } from '../../look/Findings';
import { SheetRow, useSheet } from '../../look/SheetRow';
import { SheetView } from '../../look/SheetView';
import { OwnProgram } from './OwnProgram';
import { Empty, Figure, Frame } from '../../look/Frame';
import type { StationProps } from '../../look/station';

/** The page as it goes to the printer. */
export function PrintStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const unit = useUnit((state) => state.unit);
  const ready = plan && plan.sheets.length > 0;
  return (
    <Frame
      foot={
        ready && (
          <div className="flex items-center gap-8">
            <SheetRow plan={plan} />
            <Figure name="page">{showSize(plan.width_mm, plan.height_mm, unit)}</Figure>
            <Figure name="scale">100 %</Figure>
            <Figure name="reads">{plan.mirror ? 'backwards, on purpose' : 'the right way'}</Figure>
          </div>
        )
      }
      side={
        <>
          <section aria-label="In the printer’s own dialog">
            <h2 className="font-head text-base font-bold">In the printer’s own dialog</h2>
            <ul className="mt-1 flex list-disc flex-col gap-1.5 pl-5">
              <li>
                Scale 100 %, “fit to page” <b>off</b>: the most common cause of a wrong size.
              </li>
              <li>
                Borderless <b>off</b>.
              </li>
              <li>
                The printer’s own mirror <b>off</b>
                {plan?.mirror ? '; the file is mirrored already' : ''}.
              </li>
              <li>Paper: the size shown below, nothing near it.</li>
              {(view.job.document.copies ?? 1) > 1 && (
                <li>
                  Copies: <b>{view.job.document.copies}</b> of every page; each is cut with the same cut file.
                </li>
              )}
            </ul>
            <p className="mt-2 text-sm text-soft">
              The cut lines are not printed. Let the ink dry before the sheet goes on the mat; the stock’s
              label says how long.
            </p>
          </section>
          {ready && (
            <section aria-label="Print files">
              <h2 className="font-head text-base font-bold">Print files</h2>
              <ul className="mt-1 flex flex-col gap-1">
                {plan.sheets.map((_, sheet) => (
                  <li key={sheet}>
                    <a
                      className="font-bold text-kingfisher underline"
                      href={`/api/jobs/${view.job.id}/sheets/${sheet + 1}/print.pdf`}
                      download
                    >
                      Sheet {sheet + 1} (PDF)
                    </a>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {ready && plan.granted.length > 0 && <Own jobId={view.job.id} plan={plan} />}
          <Findings
            findings={view.findings.filter((finding) => finding.station === 'print')}
            items={view.job.document.items ?? []}
            jobId={view.job.id}
            change={change}
          />
        </>
      }
    >
      {ready ? <Page jobId={view.job.id} plan={plan} /> : <Empty view={view} add={add} />}
    </Frame>
  );
}

function Page({ jobId, plan }: { jobId: number; plan: NonNullable<StationProps['view']['plan']> }) {
  return <SheetView jobId={jobId} plan={plan} sheet={useSheet(plan)} mode="print" />;
}

function Own({ jobId, plan }: { jobId: number; plan: NonNullable<StationProps['view']['plan']> }) {
  return <OwnProgram jobId={jobId} plan={plan} sheet={useSheet(plan)} />;
}
