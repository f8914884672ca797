import type { Schemas } from '../../api/client';
import { useReplay } from '../../api/cut';
import type { Plan } from '../../api/view';
import { showSpeed, showWay, useUnit } from '../../kit/units';
import { Loaded } from '../../look/Loaded';
import { clock } from './PathLook';
import { Explained } from '../../look/Explained';

const PARTS: Record<string, string> = {
  marks: 'reading the marks',
  cutting: 'cutting',
  corners: 'slowing down for corners',
  lifts: 'lifting and setting down',
  travel: 'travelling',
};
const KINDS = ['svg', 'dxf', 'hpgl'] as const;

/** What a sheet takes at the machine, in its parts, and the tell-tale that goes before it. */
export function PathPanel({ jobId, plan, sheet }: { jobId: number; plan: Plan; sheet: number }) {
  return (
    <Loaded
      query={useReplay(jobId, sheet, plan.packing.layout)}
      doing="Working out the way"
      className="text-sm"
    >
      {(replay) => <PathThere jobId={jobId} sheet={sheet} replay={replay} />}
    </Loaded>
  );
}

function PathThere({ jobId, sheet, replay }: { jobId: number; sheet: number; replay: Schemas['ReplayOut'] }) {
  const unit = useUnit((state) => state.unit);
  const most = Math.max(...Object.values(replay.parts), 1e-6);
  return (
    <>
      <section aria-label="Time at the machine" className="flex flex-col gap-2">
        <h2 className="font-head text-lg leading-tight font-bold">{clock(replay.seconds)} at the machine</h2>
        <table className="w-full text-sm">
          <tbody>
            {Object.entries(replay.parts).map(([part, seconds]) => (
              <tr key={part}>
                <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                  {PARTS[part] ?? part}
                </th>
                <td className="w-20">
                  <span
                    aria-hidden
                    className="block h-2 rounded-[2px] bg-kingfisher"
                    style={{ width: `${(100 * seconds) / most}%` }}
                  />
                </td>
                <td className="figure pl-2 text-right font-bold">{clock(seconds)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="text-sm">
          {showWay(replay.length_mm, unit)} of cut, {showWay(replay.travel_mm, unit)} of travel,{' '}
          {replay.lifts} lifts.
          {replay.slow_loops > 0 &&
            ` ${replay.slow_loops} loops with tight bends go slower, down to ${showSpeed(replay.slowest_mm_s, unit)}; they do not slow the others.`}
        </p>
        <p className="text-sm text-soft">
          <Explained text="Holes are cut before outlines, and kiss cuts before through cuts. Each loop begins at a corner or on a straight stretch, and ends a little past its beginning." />
        </p>
      </section>
      <section aria-label="Tell-tale" className="flex flex-col gap-1 border-t border-rule pt-2">
        <h2 className="font-bold">
          <Explained text="Tell-tale first" />
        </h2>
        {replay.tell_tale.problem ? (
          <p className="text-sm">There is no waste left for one: look twice at the first piece.</p>
        ) : (
          <>
            <p className="text-sm">
              One small drop in the corner farthest from the marks. One look at it judges depth and place
              before a good piece is touched.
            </p>
            <p className="flex gap-4 text-sm">
              {KINDS.map((kind) => (
                <a
                  key={kind}
                  className="font-bold text-kingfisher underline"
                  href={`/api/jobs/${jobId}/sheets/${sheet + 1}/tell-tale.${kind}`}
                  download
                >
                  {kind === 'hpgl' ? 'HP-GL' : kind.toUpperCase()}
                </a>
              ))}
            </p>
          </>
        )}
      </section>
    </>
  );
}
