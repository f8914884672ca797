import type { Force } from '../../api/cut';
import { ForceWindow } from './ForceWindow';
import { LadderRow } from './LadderRow';

/** How much pressure, and below it the drops that sharpen it. */
export function ForceLook({ jobId, force, practice }: { jobId: number; force: Force; practice: boolean }) {
  return (
    <div
      className="absolute inset-0 flex flex-col gap-3 overflow-y-auto"
      tabIndex={0}
      aria-label="How much pressure"
    >
      <ForceWindow force={force} ladder={force.ladder} />
      <LadderRow jobId={jobId} force={force} ladder={force.ladder} practice={practice} />
    </div>
  );
}
