import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import { type Finish, type Pieces, usePutLabels } from '../../api/finish';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { Options } from '../../kit/Options';
import { LabelField } from '../../kit/LabelField';
import { NumberField } from '../../kit/NumberField';
import { Select } from '../../kit/Select';
import { CoverChoice } from '../../look/CoverChoice';
import { BlankFold } from './BlankFold';
import { ClothFold } from './ClothFold';
import { HeatFold } from './HeatFold';
import { LabelPress } from './LabelPress';
import { OwnStepsFold } from './OwnStepsFold';

interface Props {
  jobId: number;
  finish: Finish;
  pieces: Pieces | null;
  added: Schemas['AddedStep'][];
  change: Changer;
}

/** What is decided of the work after the print, and what its labels say. */
export function FinishPanel({ jobId, finish, pieces, added, change }: Props) {
  const put = usePutLabels(jobId);
  return (
    <>
      <section aria-label="How it is finished" className="flex flex-col gap-3">
        <h2 className="font-head text-base font-bold">How it is finished</h2>
        {finish.cover && <CoverChoice cover={finish.cover} coats={finish.coats} change={change} />}
        {finish.masks.length > 0 && (
          <Select
            label="Carried by"
            options={finish.masks}
            value={finish.mask}
            onChange={(key) => change({ label: 'mask', changes: { 'finish.mask': key } })}
          />
        )}
        {finish.ball_mm !== null && (
          <div className="flex flex-col gap-1">
            <LengthField
              label="Round both ways: a ball that lies on it, across"
              value={finish.ball_mm}
              onChange={(mm) => change({ label: 'how round it is', changes: { 'finish.ball_mm': mm } })}
            />
            <p className="text-sm text-soft">
              The placing templates show where to slit its mask, and how far.
            </p>
          </div>
        )}
        {finish.sets.length > 0 && (
          <div className="flex flex-col gap-1">
            <span className="text-sm">Once it is on</span>
            <Options
              label="Once it is on"
              options={finish.sets.map((one) => ({ key: one.key, name: one.name, hint: one.limit }))}
              value={finish.set}
              onChange={(key) => change({ label: 'how it is set', changes: { 'finish.set': key } })}
            />
          </div>
        )}
        {finish.on_plate && (
          <NumberField
            label="Press or oven holds"
            unit="pieces"
            value={finish.plate}
            onChange={(plate) => change({ label: 'plate', changes: { 'finish.plate': Math.round(plate) } })}
          />
        )}
        {finish.practice && (
          <Button
            className="self-start"
            onClick={() =>
              finish.practice &&
              change({
                label: 'a practice piece',
                numbers: [finish.practice.number],
                changes: { quantity: finish.practice.quantity },
              })
            }
          >
            One more “{finish.practice.name}” to practise with
          </Button>
        )}
      </section>
      {pieces?.cloth && <ClothFold cloth={pieces.cloth} change={change} />}
      {pieces?.press && <HeatFold heat={pieces.press.heat} change={change} />}
      {finish.press && (
        <LabelPress
          press={finish.press}
          cold={finish.steps.some((step) => step.key === 'cold')}
          change={change}
        />
      )}
      {pieces?.blank && <BlankFold blank={pieces.blank} change={change} />}
      {finish.labels.length > 0 && (
        <section aria-label="What the label says" className="flex flex-col gap-2.5">
          <h2 className="font-head text-base font-bold">What the label says</h2>
          <p className="text-sm text-soft">
            {finish.missing.length > 0
              ? 'Until then these times are only starter figures. Read your product’s label before anything gets hot or wet.'
              : 'All read; kept with this stock.'}
          </p>
          {finish.labels.map((label) => (
            <LabelField key={label.key} label={label} put={(value) => put.mutate({ [label.key]: value })} />
          ))}
        </section>
      )}
      <OwnStepsFold finish={finish} added={added} change={change} />
    </>
  );
}
