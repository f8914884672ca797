import { useState } from 'react';

import { type Force, type Ladder, type Outcome, useAddReading, useForgetRecord } from '../../api/cut';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { Fold } from '../../kit/Fold';
import { NumberField } from '../../kit/NumberField';
import { Select } from '../../kit/Select';

/** What was seen without a ladder, and everything that the belief was sharpened by. */
export function Readings({ jobId, force }: { jobId: number; force: Force }) {
  const add = useAddReading(jobId);
  const catalog = useCatalog().data;
  const names = catalog?.outcomes ?? [];
  const [gf, setGf] = useState<number | null>(null);
  const [passes, setPasses] = useState(1);
  const [outcome, setOutcome] = useState<Outcome>('clean');
  const seen = force.records.filter((one) => one.drops.some((drop) => drop.outcome));
  return (
    <>
      <Fold title="Already known?" summary="type it in">
        <p className="text-sm text-soft">“This setting was too little, the next one tears” is two of them.</p>
        <div className="flex flex-wrap items-end gap-3">
          <NumberField label="Force" unit="gf" value={gf ?? force.proposal_gf} onChange={setGf} />
          <span className="flex flex-col gap-0.5 text-sm">
            Passes
            <CountField label="Passes" value={passes} most={catalog?.most_passes ?? 1} onChange={setPasses} />
          </span>
        </div>
        <Select
          label="What it did"
          options={names.filter((one) => force.outcomes.includes(one.key as Outcome))}
          value={outcome}
          onChange={(key) => setOutcome(key as Outcome)}
        />
        <Button
          className="self-start"
          onClick={() => add.mutate({ cut: force.cut, force_gf: gf ?? force.proposal_gf, passes, outcome })}
        >
          Count it
        </Button>
      </Fold>
      {seen.length > 0 && (
        <Fold title="What was tried" summary={summary(seen)}>
          <ul className="flex flex-col gap-2">
            {[...seen].reverse().map((record) => (
              <Tried key={record.id} jobId={jobId} record={record} names={names} />
            ))}
          </ul>
        </Fold>
      )}
    </>
  );
}

function summary(records: Ladder[]): string {
  const count = (kind: Ladder['kind'], one: string) => {
    const many = records.filter((record) => record.kind === kind).length;
    return many ? `${many} ${many === 1 ? one : `${one}s`}` : '';
  };
  return [count('ladder', 'ladder'), count('reading', 'reading'), count('run', 'run')]
    .filter(Boolean)
    .join(', ');
}

interface TriedProps {
  jobId: number;
  record: Ladder;
  names: readonly { key: string; name: string }[];
}

function Tried({ jobId, record, names }: TriedProps) {
  const forget = useForgetRecord(jobId);
  const when = new Date(record.made_at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });
  return (
    <li className="flex items-start justify-between gap-2 text-sm">
      <span>
        <b>
          {record.kind}, {when}
        </b>
        <br />
        {record.drops
          .filter((drop) => drop.outcome)
          .map(
            (drop) =>
              `${drop.force_gf} gf${drop.passes > 1 ? ` × ${drop.passes}` : ''} ${names.find((one) => one.key === drop.outcome)?.name ?? ''}`,
          )
          .join(', ')}
      </span>
      <Button
        look="bare"
        aria-label={`Forget the ${record.kind} of ${when}`}
        onClick={() => forget.mutate(record.id)}
      >
        Forget
      </Button>
    </li>
  );
}
