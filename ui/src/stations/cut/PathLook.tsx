import { memo, useEffect, useRef, useState } from 'react';

import { type Cut, type Replay, useForce, useLadderPlace, useReplay } from '../../api/cut';
import type { Plan } from '../../api/view';
import { Button } from '../../kit/Button';
import { Choose } from '../../kit/Choose';
import { SheetView } from '../../look/SheetView';

// How finely the time can be set.
const STEP_S = 0.1;
const SPEEDS = [1, 4, 16, 64] as const;

interface Props {
  jobId: number;
  plan: Plan;
  sheet: number;
  /** Whose ladder is shown, while one waits to be judged. */
  cut: Cut;
}

/** The way of the blade over a sheet, played back: a slider over its time, or run at true speed. */
export function PathLook({ jobId, plan, sheet, cut }: Props) {
  const ladder = useForce(jobId, cut, null).data?.ladder;
  const open = ladder?.open ? ladder.before : null;
  const drops = useLadderPlace(jobId, sheet, plan.packing.layout, open, null).data;
  const replay = useReplay(jobId, sheet, plan.packing.layout).data;
  const whole = replay?.runs.at(-1)?.ends ?? 0;
  const [at, setAt] = useState<number | null>(null);
  const [playing, setPlaying] = useState(false);
  const [faster, setFaster] = useState<number>(1);
  const last = useRef(0);
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    last.current = performance.now();
    const step = (now: number) => {
      const passed = ((now - last.current) / 1000) * faster;
      last.current = now;
      setAt((before) => {
        const next = Math.min(whole, (before ?? 0) + passed);
        if (next >= whole) setPlaying(false);
        return next;
      });
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, faster, whole]);
  const time = at ?? whole;
  const play = () => {
    if (time >= whole) setAt(0);
    setPlaying(!playing);
  };
  return (
    <SheetView
      jobId={jobId}
      plan={plan}
      sheet={sheet}
      mode="cut"
      bar={
        <div className="flex flex-wrap items-center gap-3">
          <Button onClick={play} disabled={!replay}>
            {playing ? 'Stop' : 'Play'}
          </Button>
          <Choose
            name={faster === 1 ? 'true speed' : `${faster} times as fast`}
            label="Speed"
            choices={SPEEDS.map((one) => ({
              words: one === 1 ? 'true speed' : `${one} times as fast`,
              do: () => setFaster(one),
              chosen: one === faster,
            }))}
          />
          <input
            type="range"
            aria-label="Time at the machine"
            aria-valuetext={`${clock(time)} of ${clock(whole)}`}
            className="min-w-24 flex-1 accent-kingfisher"
            min={0}
            max={whole || 1}
            step={STEP_S}
            value={time}
            onChange={(event) => {
              setPlaying(false);
              setAt(Number(event.target.value));
            }}
          />
          <span className="figure whitespace-nowrap">
            {clock(time)} of {clock(whole)}
          </span>
        </div>
      }
    >
      {replay && <Way replay={replay} time={time} />}
      {replay && <Drops drops={replay.tell_tale} />}
      {open !== null && drops && <Drops drops={drops} />}
    </SheetView>
  );
}

export function clock(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

function Way({ replay, time }: { replay: Replay; time: number }) {
  let done = replay.runs.findIndex((run) => run.ends > time + STEP_S);
  if (done < 0) done = replay.runs.length;
  const now = replay.runs[done];
  const share = now ? Math.max(0, (time - now.begins) / (now.ends - now.begins)) : 0;
  return (
    <g>
      <Drawn replay={replay} done={done} />
      {now && time < now.begins && (
        <line
          x1={now.from_mm[0]}
          y1={now.from_mm[1]}
          x2={now.to_mm[0]}
          y2={now.to_mm[1]}
          stroke="var(--d-look)"
          strokeWidth="1.5"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {now && share > 0 && (
        <path
          d={now.path}
          fill="none"
          stroke="var(--d-stop)"
          strokeWidth="3"
          pathLength={1}
          strokeDasharray={`${share} 2`}
          vectorEffect="non-scaling-stroke"
        />
      )}
    </g>
  );
}

/** Test drops where they lie in the waste. */
function Drops({ drops }: { drops: Replay['tell_tale'] }) {
  return (
    <g fill="none" stroke="var(--d-look)" strokeWidth="1.6">
      {[...drops.paths, ...drops.slits].map((path) => (
        <path key={path} d={path} vectorEffect="non-scaling-stroke" />
      ))}
    </g>
  );
}

/** What was cut so far; drawn anew only when a run ends, not with every frame. */
const Drawn = memo(function Drawn({ replay, done }: { replay: Replay; done: number }) {
  const cut = replay.runs.slice(0, done);
  const travel = cut.map((run) => `M${run.from_mm.join(' ')}L${run.to_mm.join(' ')}`).join('');
  return (
    <>
      <path
        d={travel}
        fill="none"
        stroke="var(--d-look)"
        strokeWidth="1"
        strokeDasharray="2 4"
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={cut.map((run) => run.path).join(' ')}
        fill="none"
        stroke="var(--d-edge)"
        strokeWidth="2.4"
        vectorEffect="non-scaling-stroke"
      />
    </>
  );
});
