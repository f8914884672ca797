/** One picture for the machine's own program, and what to type and to choose there. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';

import { ask, client } from '../../api/client';
import { type ProgramView, useProgram, useTellProgram } from '../../api/program';
import type { Plan, View } from '../../api/view';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { plainLength, useUnit } from '../../kit/units';
import { Loaded } from '../../look/Loaded';
import { useSheet } from '../../look/SheetRow';
import { FoundPicture } from './FoundPicture';

const STEPS = 'grid grid-cols-[9rem_1fr] items-baseline gap-x-4 gap-y-2';

export function ProgramHandOff({ view, plan }: { view: View; plan: Plan }) {
  const sheet = useSheet(plan);
  return (
    <div
      className="absolute inset-0 overflow-y-auto p-5"
      tabIndex={0}
      aria-label="For your machine’s program"
    >
      <div className="mx-auto flex max-w-[50rem] flex-col gap-4">
        <Loaded query={useProgram(view.job.id, plan.packing.layout)} doing="Measuring the picture">
          {(program) => program && <Given view={view} plan={plan} program={program} sheet={sheet} />}
        </Loaded>
      </div>
    </div>
  );
}

interface GivenProps {
  view: View;
  plan: Plan;
  program: ProgramView;
  sheet: number;
}

function Given({ view, plan, program, sheet }: GivenProps) {
  const unit = useUnit((state) => state.unit);
  const picture = program.pictures[sheet];
  if (!picture) return null;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h2 className="text-sm text-soft">Type this size, or compare it</h2>
          <p className="figure flex flex-wrap items-center gap-x-3 text-4xl leading-tight font-bold">
            <Copied value={plainLength(picture.width_mm, unit)} what="width" />
            <span aria-hidden>×</span>
            <Copied value={plainLength(picture.height_mm, unit)} what="height" />
            <span className="text-2xl">{unit}</span>
          </p>
        </div>
        <a
          className="inline-flex items-center rounded-[6px] border border-kingfisher bg-kingfisher px-4 py-2.5 font-bold text-on-kingfisher"
          href={`/api/jobs/${view.job.id}/sheets/${sheet + 1}/picture.png`}
          download
        >
          The picture of sheet {sheet + 1} (PNG)
        </a>
      </div>
      <dl className={STEPS}>
        <dt className="text-soft">Bleed</dt>
        <dd>
          <b>{program.bleed}</b>: {program.why[0]?.replace(/^[^:]*: /, '')}
          {program.asks_bleed && <AskBleed view={view} program={program} />}
        </dd>
        <dt className="text-soft">Mirror</dt>
        <dd>
          <b>{program.mirror}</b>: {program.why[1]?.replace(/^[^:]*: /, '')}
        </dd>
        <dt className="text-soft">Paper</dt>
        <dd>{program.paper}</dd>
        <dt className="text-soft">Copies</dt>
        <dd>{program.copies === 1 ? 'one' : program.copies}</dd>
        <dt className="text-soft">Test drop</dt>
        <dd>
          <RideAlong view={view} program={program} there={picture.drop} />
        </dd>
      </dl>
      <WillFind jobId={view.job.id} plan={plan} sheet={sheet} />
    </>
  );
}

/** A figure that a press copies. */
function Copied({ value, what }: { value: string; what: string }) {
  const [done, setDone] = useState(false);
  return (
    <span className="inline-flex items-center gap-2">
      {value}
      <Button
        className="py-1"
        aria-label={`Copy the ${what}, ${value}`}
        onClick={() =>
          void navigator.clipboard?.writeText(value).then(
            () => setDone(true),
            () => setDone(false),
          )
        }
      >
        {done ? 'Copied' : 'Copy'}
      </Button>
    </span>
  );
}

/** Asked when it first matters: whether the program carries colour past the cut. */
function AskBleed({ view, program }: { view: View; program: ProgramView }) {
  const tell = useTellProgram(view.job.document.cutter_id);
  const [width, setWidth] = useState(1.5);
  const say = (has: boolean) =>
    tell.mutate({ ...program.facts, bleed: { switch: has, width_mm: has ? width : 0 } });
  return (
    <div className="panel mt-1.5 flex flex-wrap items-end gap-2 p-2.5">
      <p className="w-full text-sm">
        Colour runs to the edge here. <b>Does your program have a bleed switch?</b>
      </p>
      <LengthField label="It carries colour past the cut by" value={width} onChange={setWidth} />
      <Button look="act" onClick={() => say(true)}>
        It has one
      </Button>
      <Button onClick={() => say(false)}>It has none</Button>
    </div>
  );
}

function RideAlong({ view, program, there }: { view: View; program: ProgramView; there: boolean }) {
  const tell = useTellProgram(view.job.document.cutter_id);
  const wanted = program.facts.tell_tale === true;
  return (
    <span className="flex flex-wrap items-center gap-2">
      {wanted
        ? there
          ? 'A small drop rides along in a corner: lift it first, before you unload.'
          : 'No waste is left on this sheet for the small drop.'
        : 'A small drop can ride along in a corner, to look at before you unload.'}
      <Button className="py-1" onClick={() => tell.mutate({ ...program.facts, tell_tale: !wanted })}>
        {wanted ? 'Leave it out' : 'Take it along'}
      </Button>
    </span>
  );
}

/** What the program will find to cut in the picture. */
function WillFind({ jobId, plan, sheet }: { jobId: number; plan: Plan; sheet: number }) {
  const found = useQuery({
    meta: { told: true },
    queryKey: ['job', jobId, 'found-cut', plan.packing.layout, sheet],
    queryFn: () =>
      ask(
        client.GET('/api/jobs/{job_id}/sheets/{sheet}/found-cut', {
          params: { path: { job_id: jobId, sheet: sheet + 1 } },
        }),
      ),
  });
  return (
    <Loaded query={found} doing="Drawing the picture and tracing it back">
      {(there) => (
        <FoundPicture
          found={there}
          picture={`/api/jobs/${jobId}/sheets/${sheet + 1}/picture.png?shown=${there.width_px}x${there.height_px}-${there.found}`}
        />
      )}
    </Loaded>
  );
}
