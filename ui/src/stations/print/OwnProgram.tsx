import { useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from '../../api/client';
import type { Plan } from '../../api/view';
import { plainLength } from '../../kit/units';
import { Loaded } from '../../look/Loaded';
import { FoundPicture } from './FoundPicture';

/** The sheet as one picture for the machine's own program, and what that will find to cut. */
export function OwnProgram({ jobId, plan, sheet }: { jobId: number; plan: Plan; sheet: number }) {
  const found = useQuery({
    meta: { told: true },
    queryKey: ['found-cut', jobId, plan.packing.layout, sheet],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/sheets/{sheet}/found-cut', {
          params: { path: { job_id: jobId, sheet: sheet + 1 } },
        }),
      ),
  });
  return (
    <section aria-label="For the machine’s own program" className="flex flex-col gap-2">
      <h2 className="font-head text-base font-bold">For the machine’s own program</h2>
      <p className="text-sm text-soft">
        One picture of the sheet, clear where nothing lies. It finds the cut by the picture’s outline, so bare
        borders are filled with white. Vamper adds no bleed to it: that is the program’s to switch.
      </p>
      <Loaded query={found} doing="Drawing the sheet and tracing it back">
        {(there) => <Found found={there} />}
      </Loaded>
      <a
        className="font-bold text-kingfisher underline"
        href={`/api/jobs/${jobId}/sheets/${sheet + 1}/whole.png`}
        download
      >
        Sheet {sheet + 1} as one picture (PNG)
      </a>
    </section>
  );
}

function Found({ found }: { found: Schemas['FoundCutOut'] }) {
  const { width_mm: width, height_mm: height } = found.size;
  return (
    <>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-sm">
        <dt className="text-soft">Type this size</dt>
        <dd className="font-bold">
          {plainLength(width, 'mm')} × {plainLength(height, 'mm')} mm
          <br />
          {plainLength(width, 'in')} × {plainLength(height, 'in')} in
        </dd>
        <dt className="text-soft">Picture</dt>
        <dd>
          {found.width_px} × {found.height_px} pixels
        </dd>
      </dl>
      <FoundPicture found={found} />
    </>
  );
}
