import { useState } from 'react';

import { type Printing, useChoosePrinting } from '../../api/printing';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';

/** The label's preset and the maker's own come first; where both schools are at odds, a swatch strip decides. */
export function Schools({ jobId, printing }: { jobId: number; printing: Printing }) {
  const choose = useChoosePrinting(jobId);
  const winner = printing.schools.find((one) => one.key === printing.school);
  return (
    <>
      <Fold title="Preset" summary={printing.own || printing.label || printing.source}>
        <Preset
          key={`label ${printing.label}`}
          label="What the package names for this printer"
          value={printing.label}
          keep={(label) => choose.mutate({ label })}
        />
        <Preset
          key={`own ${printing.own}`}
          label="What you found better yourself"
          value={printing.own}
          keep={(own) => choose.mutate({ own })}
        />
        <p className="text-sm text-soft">
          Yours comes first, then the label’s; both are kept for this printer and stock.
        </p>
      </Fold>
      {printing.schools.length > 1 && (
        <Fold title="Swatch strip" summary={winner ? `${winner.name} won` : 'two schools, side by side'}>
          <p className="text-sm text-soft">
            Print both on one offcut, each by its own settings, and keep the better.
          </p>
          {printing.schools.map((one) => (
            <div key={one.key} className="flex flex-col gap-1">
              <b>{one.name}</b>
              <span className="text-sm text-soft">{one.why}</span>
              <span className="flex flex-wrap items-center gap-3">
                <a
                  className="text-sm font-bold text-kingfisher underline"
                  href={`/api/jobs/${jobId}/swatch-${one.key}.pdf`}
                  download
                >
                  Strip for “{one.name}” (PDF)
                </a>
                <Button
                  look={one.key === printing.school ? 'act' : 'plain'}
                  aria-pressed={one.key === printing.school}
                  onClick={() => choose.mutate({ school: one.key === printing.school ? '' : one.key })}
                >
                  This one won
                </Button>
              </span>
            </div>
          ))}
        </Fold>
      )}
    </>
  );
}

function Preset({ label, value, keep }: { label: string; value: string; keep: (value: string) => void }) {
  const [draft, setDraft] = useState(value);
  return (
    <form
      className="flex flex-col gap-0.5 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        keep(draft);
      }}
    >
      <label className="flex flex-col gap-0.5">
        {label}
        <input
          className="field"
          maxLength={120}
          value={draft}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={() => draft !== value && keep(draft)}
        />
      </label>
    </form>
  );
}
