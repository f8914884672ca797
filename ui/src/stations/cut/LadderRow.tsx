import { Radio, RadioGroup } from '@headlessui/react';

import { type Force, type Ladder, type Outcome, useBeginLadder, useJudge } from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import { practiceDropUrl } from '../../api/twin';
import { Button } from '../../kit/Button';
import { DropPicture } from './DropPicture';
import { Explained } from '../../look/Explained';

interface Props {
  jobId: number;
  force: Force;
  ladder: Ladder | null;
  /** Cut on the practice bench: drops are shown as they came out. */
  practice: boolean;
}

/** Six drops, the gentlest first; each is judged by one click, and the belief above follows. */
export function LadderRow({ jobId, force, ladder, practice }: Props) {
  const begin = useBeginLadder(jobId);
  const cut = () => begin.mutate({ cut: force.cut, passes: force.passes });
  return (
    <section aria-label="Ladder" className="mx-auto flex w-full max-w-[56rem] flex-col gap-2 px-4 pb-4">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 className="font-head text-base font-bold">{ladderTitle(force, ladder)}</h2>
        {!ladder?.open && (
          <span className="flex items-center gap-3">
            <span className="text-sm">
              {!force.done
                ? `The next one should add ${points(force.gain_points)} to your odds.`
                : ladder
                  ? 'Done: one more would add less than a point to your odds.'
                  : 'A ladder would add less than a point to your odds.'}
            </span>
            <Button look={force.done ? 'plain' : 'main'} onClick={cut} disabled={begin.isPending}>
              {!ladder ? 'Lay out a ladder' : force.done ? 'One more anyway' : 'Next ladder'}
            </Button>
          </span>
        )}
        {ladder?.open && (
          <span className="text-sm text-soft">
            {practice
              ? 'Cut on the practice bench (simulated): each drop bent a little, and its backing. Press what it looks like.'
              : 'Cut it, look at each drop, press what it looks like.'}
          </span>
        )}
      </div>
      {ladder ? (
        <ol className="grid grid-cols-6 gap-2 max-[64rem]:grid-cols-3">
          {ladder.drops.map((drop, index) => (
            <DropCard
              key={`${ladder.id}-${index}`}
              jobId={jobId}
              ladder={ladder}
              index={index}
              outcomes={force.outcomes}
              practice={practice}
            >
              {drop}
            </DropCard>
          ))}
        </ol>
      ) : (
        <>
          <p className="text-sm">
            <Explained text="A ladder is six drops of 6 mm, in the waste of this sheet or on an offcut. Cut them, and say what each looks like." />
          </p>
          <ol className="grid grid-cols-6 gap-2 max-[64rem]:grid-cols-3">
            {force.next_gf.map((gf) => (
              <li key={gf} className="panel flex flex-col items-center gap-1 p-1.5 opacity-80">
                <DropPicture outcome={null} size={44} />
                <span className="figure font-bold">
                  {gf} gf{force.passes > 1 ? ` × ${force.passes}` : ''}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}

function points(gain: number): string {
  const whole = Math.max(1, Math.round(gain));
  return whole === 1 ? 'about a point' : `about ${whole} points`;
}

function ladderTitle(force: Force, ladder: Ladder | null): string {
  const before = force.records.filter(
    (one) => one.kind === 'ladder' && one.cut === force.cut && !one.open,
  ).length;
  if (!ladder) return 'No ladder yet';
  return ladder.open ? `Ladder ${before + 1}` : `Ladder ${before}, judged`;
}

interface CardProps {
  jobId: number;
  ladder: Ladder;
  index: number;
  outcomes: Outcome[];
  practice: boolean;
  children: Ladder['drops'][number];
}

function DropCard({ jobId, ladder, index, outcomes, practice, children: drop }: CardProps) {
  const judge = useJudge(jobId);
  const names = useCatalog().data?.outcomes ?? [];
  const shown = judge.isPending ? (judge.variables?.outcome ?? null) : drop.outcome;
  const times = drop.passes > 1 ? ` × ${drop.passes}` : '';
  return (
    <li className="panel flex flex-col items-center gap-1 p-1.5">
      {practice ? (
        <img
          src={practiceDropUrl(jobId, ladder.id, index)}
          alt={`Drop ${index + 1} as it came out: bent a little, and its backing`}
          className="w-full rounded-[4px] border border-rule"
        />
      ) : (
        <DropPicture outcome={shown ?? null} size={44} />
      )}
      <span className="figure font-bold">
        {drop.force_gf} gf{times}
      </span>
      <RadioGroup
        value={(shown ?? '') as string}
        onChange={(outcome: string) =>
          judge.mutate({ record: ladder.id, drop: index, outcome: outcome as Outcome })
        }
        aria-label={`Drop ${index + 1}, ${drop.force_gf} gf${times}`}
        className="flex w-full flex-col gap-0.5"
      >
        {outcomes.map((outcome) => {
          const one = names.find((name) => name.key === outcome);
          return (
            <Radio
              key={outcome}
              value={outcome}
              title={one?.hint}
              className="cursor-pointer rounded-[4px] border border-rule px-1 py-0.5 text-center text-sm leading-tight hover:border-kingfisher data-checked:border-kingfisher data-checked:bg-tray data-checked:shadow-[inset_0_0_0_1px_var(--kingfisher)]"
            >
              {one?.name ?? outcome}
            </Radio>
          );
        })}
      </RadioGroup>
    </li>
  );
}
