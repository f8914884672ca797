/** Where the machine's own program prints its marks: measured with a ruler on one print, or read off a flat scan. */
import { useState } from 'react';

import {
  type ProgramMarks as Marks,
  type ProgramView,
  useProgram,
  useScanMarks,
  useTellProgram,
} from '../../api/program';
import type { Plan, View } from '../../api/view';
import { Button } from '../../kit/Button';
import { FileButton } from '../../kit/FileButton';
import { Fold } from '../../kit/Fold';
import { LengthField } from '../../kit/LengthField';
import { Options } from '../../kit/Options';
import { showLength, useUnit } from '../../kit/units';
import { asSentence } from '../../kit/words';

const USUAL: Marks = {
  family: 'frame',
  stroke_mm: 1,
  arm_mm: 10,
  rim_mm: { top: 10, right: 10, bottom: 10, left: 10 },
};
const SIDES = ['top', 'right', 'bottom', 'left'] as const;

export function ProgramMarks({ view, plan }: { view: View; plan: Plan }) {
  const program = useProgram(view.job.id, plan.packing.layout).data;
  if (!program) return null;
  return <Measured key={JSON.stringify(program.facts.marks ?? null)} view={view} program={program} />;
}

function Measured({ view, program }: { view: View; program: ProgramView }) {
  const unit = useUnit((state) => state.unit);
  const tell = useTellProgram(view.job.document.cutter_id);
  const scan = useScanMarks(view.job.id);
  const [marks, setMarks] = useState<Marks>(program.facts.marks ?? USUAL);
  const rim = marks.rim_mm ?? { top: 10, right: 10, bottom: 10, left: 10 };
  return (
    <Fold
      title="Its marks"
      summary={
        program.measured
          ? `measured: a ${marks.family === 'frame' ? 'frame' : 'mark in each corner'}`
          : 'not measured yet'
      }
      open={!program.measured}
    >
      <p className="text-sm">
        Your program prints marks of its own. With a ruler, on one print: from each paper edge to the{' '}
        <b>outside</b> of the line. Then patches, guards and the largest laminate fit them. It can wait.
      </p>
      <Ruler family={marks.family ?? 'frame'} />
      <Options
        label="What it prints"
        columns={2}
        options={[
          { key: 'frame', name: 'A frame' },
          { key: 'corner', name: 'Corners' },
        ]}
        value={marks.family ?? 'frame'}
        onChange={(family) => setMarks({ ...marks, family: family as 'frame' | 'corner' })}
      />
      <div className="grid grid-cols-2 gap-2">
        {SIDES.map((side) => (
          <LengthField
            key={side}
            label={`From the ${side}`}
            value={rim[side]}
            onChange={(mm) => setMarks({ ...marks, rim_mm: { ...rim, [side]: mm } })}
          />
        ))}
        <LengthField
          label="Thickness of the line"
          value={marks.stroke_mm ?? 1}
          onChange={(stroke_mm) => setMarks({ ...marks, stroke_mm })}
        />
        {marks.family === 'corner' && (
          <LengthField
            label="Length of an arm"
            value={marks.arm_mm ?? 10}
            onChange={(arm_mm) => setMarks({ ...marks, arm_mm })}
          />
        )}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button
          look="act"
          disabled={tell.isPending}
          onClick={() => tell.mutate({ ...program.facts, marks: { ...marks, rim_mm: rim } })}
        >
          Keep these
        </Button>
        <FileButton
          words="Read them off a flat scan"
          label="A flat scan of one print"
          accept="image/*"
          take={(file) => scan.mutate(file, { onSuccess: (found) => setMarks(found) })}
        />
        {program.measured && (
          <Button look="bare" onClick={() => tell.mutate({ ...program.facts, marks: null })}>
            Forget them
          </Button>
        )}
      </div>
      {scan.error && <p className="text-sm text-rowan">{asSentence(scan.error.message)}</p>}
      {program.trim && (
        <p className="text-sm">
          A laminate of at most{' '}
          <b>
            {showLength(program.trim.width_mm, unit)} × {showLength(program.trim.height_mm, unit)}
          </b>{' '}
          ends inside them.
        </p>
      )}
      <p className="text-sm font-bold">Frame or marks stay on the sheet until the last cut.</p>
      <Holes program={program} tell={(finds_holes) => tell.mutate({ ...program.facts, finds_holes })} />
    </Fold>
  );
}

function Holes({ program, tell }: { program: ProgramView; tell: (finds: boolean) => void }) {
  const known = program.facts.finds_holes;
  return (
    <div role="group" aria-label="Does it cut holes?" className="flex flex-wrap items-center gap-1.5 text-sm">
      <span>It cuts</span>
      {([true, false] as const).map((finds) => (
        <Button
          key={String(finds)}
          look={(known ?? true) === finds ? 'act' : 'plain'}
          className="py-1"
          aria-pressed={(known ?? true) === finds}
          onClick={() => tell(finds)}
        >
          {finds ? 'outsides and holes' : 'outsides only'}
        </Button>
      ))}
    </div>
  );
}

/** Where to lay the ruler. */
function Ruler({ family }: { family: 'frame' | 'corner' }) {
  const ink = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 3 } as const;
  const arrow = {
    stroke: 'var(--kingfisher)',
    strokeWidth: 1.6,
    markerEnd: 'url(#ruler-end)',
    markerStart: 'url(#ruler-end)',
  } as const;
  return (
    <svg
      viewBox="0 0 200 120"
      className="max-h-36 self-center"
      role="img"
      aria-label="Measure from each paper edge to the outside of the printed line"
    >
      <defs>
        <marker
          id="ruler-end"
          viewBox="0 0 6 6"
          refX="5"
          refY="3"
          markerWidth="5"
          markerHeight="5"
          orient="auto-start-reverse"
        >
          <path d="M0 0 6 3 0 6" fill="var(--kingfisher)" />
        </marker>
      </defs>
      <rect x="50" y="4" width="100" height="112" fill="var(--paper)" stroke="var(--soft)" />
      {family === 'frame' ? (
        <rect x="68" y="22" width="64" height="76" {...ink} />
      ) : (
        <path d="M68 36V22h14M132 36V22h-14M68 84v14h14M132 84v14h-14" {...ink} />
      )}
      <path d="M100 4V20" {...arrow} />
      <path d="M100 116V100" {...arrow} />
      <path d="M50 60H66" {...arrow} />
      <path d="M150 60H134" {...arrow} />
      <g fontSize="11" fill="var(--ink)">
        <text x="105" y="16">
          top
        </text>
        <text x="105" y="112">
          bottom
        </text>
        <text x="44" y="64" textAnchor="end">
          left
        </text>
        <text x="156" y="64">
          right
        </text>
      </g>
    </svg>
  );
}
