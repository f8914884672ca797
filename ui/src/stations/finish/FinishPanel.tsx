import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import { type Finish, type Pieces, usePutLabels } from '../../api/finish';
import { Options } from '../../kit/Options';
import { LabelField } from '../../kit/LabelField';
import { NumberField } from '../../kit/NumberField';
import { BlankFold } from './BlankFold';
import { ClothFold } from './ClothFold';
import { HeatFold } from './HeatFold';
import { OwnStepsFold } from './OwnStepsFold';

interface Props {
  jobId: number;
  finish: Finish;
  pieces: Pieces | null;
  added: Schemas['AddedStep'][];
  change: Changer;
}

/** The process and what its label says. */
export function FinishPanel({ jobId, finish, pieces, added, change }: Props) {
  const put = usePutLabels(jobId);
  return (
    <>
      <section aria-label="How it is finished" className="flex flex-col gap-3">
        <h2 className="font-head text-base font-bold">How it is finished</h2>
        {finish.processes.length > 1 && (
          <Options
            label="Process"
            value={finish.process.key}
            options={finish.processes.map((one) => ({ key: one.key, name: one.name, hint: one.words }))}
            onChange={(key) => change({ label: 'process', changes: { 'finish.process': key } })}
          />
        )}
        {finish.schools.length > 1 && finish.school && (
          <Options
            label="Makers do it two ways"
            value={finish.school}
            options={finish.schools.map((one) => ({ key: one.key, name: one.words }))}
            onChange={(key) => change({ label: 'school', changes: { 'finish.school': key } })}
          />
        )}
        <div className="flex flex-wrap gap-4">
          {finish.coats !== null && (
            <NumberField
              label="Coats"
              unit=""
              value={finish.coats}
              onChange={(coats) => change({ label: 'coats', changes: { 'finish.coats': Math.round(coats) } })}
            />
          )}
          <NumberField
            label="Press or oven holds"
            unit="pieces"
            value={finish.plate}
            onChange={(plate) => change({ label: 'plate', changes: { 'finish.plate': Math.round(plate) } })}
          />
        </div>
      </section>
      {pieces?.cloth && <ClothFold cloth={pieces.cloth} change={change} />}
      {pieces?.press && <HeatFold heat={pieces.press.heat} change={change} />}
      {pieces?.blank && <BlankFold blank={pieces.blank} change={change} />}
      {finish.labels.length > 0 && (
        <section aria-label="What the label says" className="flex flex-col gap-2.5">
          <h2 className="font-head text-base font-bold">What the label says</h2>
          <p className="text-sm text-soft">
            {finish.missing.length > 0
              ? 'Until then these times are starters. Read the label of your product before anything gets hot or wet.'
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
