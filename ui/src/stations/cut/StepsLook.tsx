import { useState } from 'react';

import { type Cut, type Force, type Outcome, useTellStep } from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import { useCutters, useKeepCutter, useStocks } from '../../api/shop';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { Select } from '../../kit/Select';

type Dialect = NonNullable<ReturnType<typeof useCutters>['data']>[number]['profile']['cutter']['settings'];

interface Props {
  view: View;
  force: Force;
}

/** The machine's steps in the maker's own words, each where it lies on the scale of force by what it did. */
export function StepsLook({ view, force }: Props) {
  const cutterId = view.job.document.cutter_id;
  const kept = useCutters().data?.find((one) => one.id === cutterId);
  const keep = useKeepCutter();
  const [name, setName] = useState('');
  if (!kept) return null;
  const settings = kept.profile.cutter.settings;
  const save = (next: Dialect) =>
    keep.mutate({
      id: cutterId,
      profile: { ...kept.profile, cutter: { ...kept.profile.cutter, settings: next } },
    });
  const moved = (index: number, by: number) => {
    const next = [...settings];
    const [step] = next.splice(index, 1);
    if (step) next.splice(index + by, 0, step);
    save(next);
  };
  return (
    <div className="absolute inset-0 overflow-y-auto p-4" tabIndex={0} aria-label="Steps of the machine">
      <div className="mx-auto flex max-w-[56rem] flex-col gap-3">
        <p className="max-w-[44rem]">
          If this machine takes no gf, list what its dial or its menu says, the gentlest first, in your own
          words. Tell what a step did, and it finds its place on the scale; proposals are then said in these
          words.
        </p>
        {settings.length > 0 && <Scale force={force} />}
        <ol className="flex flex-col gap-2">
          {settings.map((step, index) => {
            const placed = force.steps[index];
            return (
              <li key={step.name} className="panel flex flex-col gap-1.5 p-3">
                <span className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
                  <b>{step.name}</b>
                  {placed && step.seen.length > 0 ? (
                    <span className="text-sm">
                      about <b className="figure">{Math.round(placed.force_gf)} gf</b> (
                      {Math.round(placed.low_gf)} to {Math.round(placed.high_gf)}), clean here in{' '}
                      <b className="figure">{placed.chance_words} of 100</b>
                    </span>
                  ) : (
                    <span className="text-sm text-soft">its place is only known from its neighbours</span>
                  )}
                </span>
                {placed && placed.seen.length > 0 && (
                  <span className="text-sm">{placed.seen.join('; ')}</span>
                )}
                <span className="flex flex-wrap items-center gap-2">
                  <Seen view={view} step={step.name} />
                  <label className="flex items-center gap-1.5 text-sm">
                    <input
                      type="checkbox"
                      className="size-4 accent-kingfisher"
                      checked={step.notches}
                      onChange={(event) =>
                        save(
                          settings.map((one) =>
                            one === step ? { ...one, notches: event.target.checked } : one,
                          ),
                        )
                      }
                    />
                    has a notch less and more
                  </label>
                  <Button
                    look="bare"
                    disabled={index === 0}
                    aria-label={`Up: ${step.name}`}
                    onClick={() => moved(index, -1)}
                  >
                    Up
                  </Button>
                  <Button
                    look="bare"
                    disabled={index === settings.length - 1}
                    aria-label={`Down: ${step.name}`}
                    onClick={() => moved(index, 1)}
                  >
                    Down
                  </Button>
                  <Button
                    look="bare"
                    aria-label={`Remove ${step.name}`}
                    onClick={() => save(settings.filter((one) => one !== step))}
                  >
                    Remove
                  </Button>
                </span>
              </li>
            );
          })}
        </ol>
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            save([...settings, { name: name.trim(), notches: false, seen: [] }]);
            setName('');
          }}
        >
          <label className="flex flex-col gap-0.5 text-sm">
            {settings.length ? 'The next harder step' : 'The gentlest step'}
            <input
              className="field w-64"
              maxLength={80}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
          <Button type="submit" look={settings.length ? 'plain' : 'main'} disabled={!name.trim()}>
            Add the step
          </Button>
        </form>
      </div>
    </div>
  );
}

const WIDTH = 760;

/** All steps on one scale of force, each with its spread; the one that is proposed stands out. */
function Scale({ force }: { force: Force }) {
  const { min, max } = force.force;
  const x = (gf: number) =>
    14 + ((WIDTH - 28) * (Math.log(gf) - Math.log(min))) / (Math.log(max) - Math.log(min));
  const high = 30 + force.steps.length * 24;
  const marks = [20, 30, 50, 75, 100, 150, 200, 300, 400, 600].filter((gf) => gf >= min && gf <= max);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${high}`}
        className="w-full rounded-[6px] border border-rule bg-paper"
        role="img"
        aria-label={force.steps
          .map((step) => `${step.name}: about ${Math.round(step.force_gf)} gf`)
          .join('; ')}
      >
        <line
          x1={x(force.proposal_gf)}
          x2={x(force.proposal_gf)}
          y1="4"
          y2={high - 20}
          stroke="var(--ink)"
          strokeWidth="2"
        />
        {force.steps.map((step, index) => {
          const y = 18 + index * 24;
          const chosen = force.spoken.includes(`“${step.name}”`);
          return (
            <g key={step.name}>
              <line
                x1={x(step.low_gf)}
                x2={x(step.high_gf)}
                y1={y}
                y2={y}
                stroke={chosen ? 'var(--kingfisher)' : 'var(--soft)'}
                strokeWidth={chosen ? 5 : 3}
                strokeLinecap="round"
                strokeDasharray={step.seen.length ? undefined : '1 7'}
              />
              <circle
                cx={x(step.force_gf)}
                cy={y}
                r="5"
                fill={chosen ? 'var(--kingfisher)' : 'var(--soft)'}
              />
              <text
                x={x(step.low_gf) > WIDTH / 2 ? x(step.low_gf) - 10 : x(step.high_gf) + 10}
                y={y + 5}
                textAnchor={x(step.low_gf) > WIDTH / 2 ? 'end' : 'start'}
                fontSize="14"
                fontWeight={chosen ? 700 : 400}
                fill="var(--ink)"
                stroke="var(--paper)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {step.name}
              </text>
            </g>
          );
        })}
        {marks.map((gf) => (
          <text key={gf} x={x(gf)} y={high - 5} textAnchor="middle" fontSize="13" fill="var(--soft)">
            {gf}
          </text>
        ))}
      </svg>
      <figcaption className="mt-1 text-sm text-soft">
        gf; a dot is the likeliest force of a step, its bar what is still possible; the upright line is what
        is proposed for this stock.
      </figcaption>
    </figure>
  );
}

/** What a step did, on which stock. */
function Seen({ view, step }: { view: View; step: string }) {
  const tell = useTellStep(view.job.id);
  const stocks = useStocks().data ?? [];
  const catalog = useCatalog().data;
  const [outcomes, cuts] = [catalog?.outcomes ?? [], catalog?.cuts ?? []];
  const [stock, setStock] = useState(view.job.document.stock ?? '');
  const [cut, setCut] = useState<Cut>(view.plan?.settings.find((one) => one.used)?.cut ?? 'kiss');
  const [open, setOpen] = useState(false);
  if (!open) return <Button onClick={() => setOpen(true)}>It did …</Button>;
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      <Select
        bare
        label={`${step}: on which stock`}
        options={stocks.map((one) => ({ key: one.key, name: one.stock.name }))}
        value={stock}
        onChange={setStock}
      />
      <Select
        bare
        label={`${step}: how it was cut`}
        options={cuts}
        value={cut}
        onChange={(key) => setCut(key as Cut)}
      />
      {outcomes.map((one) => (
        <Button
          key={one.key}
          title={one.hint}
          onClick={() => {
            tell.mutate({ step, stock, cut, passes: 1, outcome: one.key as Outcome });
            setOpen(false);
          }}
        >
          {one.name}
        </Button>
      ))}
      <Button look="bare" onClick={() => setOpen(false)}>
        Leave it
      </Button>
    </span>
  );
}
