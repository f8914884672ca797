import type { Force } from '../../api/cut';
import { ForceWindow } from './ForceWindow';
import { LadderRow } from './LadderRow';

/** The window of force, and below it the drops that sharpen it. */
export function ForceLook({ jobId, force, practice }: { jobId: number; force: Force; practice: boolean }) {
  return (
    <div className="absolute inset-0 flex flex-col gap-3 overflow-y-auto" tabIndex={0} aria-label="Pressure">
      <ForceWindow force={force} ladder={force.ladder} />
      <LadderRow jobId={jobId} force={force} ladder={force.ladder} practice={practice} />
    </div>
  );
}
