/** The paper: one that has a name, a size of its own, a sheet that was used before. */
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { Choices } from './Choices';
import type { PanelProps } from './phrase';

export default function PaperPanel(props: PanelProps) {
  return (
    <>
      <Choices {...props} />
      <OwnPaper {...props} />
      <SpentPaper {...props} />
      <GonePaper {...props} />
    </>
  );
}

function OwnPaper({ view, change }: PanelProps) {
  const paper = view.job.document.paper;
  return (
    <div className="flex gap-4 border-t border-rule pt-3">
      <LengthField
        label="Width"
        value={paper.width_mm}
        onChange={(mm) => change({ label: 'paper width', changes: { 'paper.width_mm': mm } })}
      />
      <LengthField
        label="Height"
        value={paper.height_mm}
        onChange={(mm) => change({ label: 'paper height', changes: { 'paper.height_mm': mm } })}
      />
    </div>
  );
}

const SPENT_FIELDS = [
  ['left_mm', 'From the left'],
  ['top_mm', 'From the top'],
  ['width_mm', 'Width'],
  ['height_mm', 'Height'],
] as const;

/** A first sheet that was used before: the rectangle of it that is gone. */
function SpentPaper({ view, change }: PanelProps) {
  const paper = view.job.document.paper;
  const spent = paper.spent ?? null;
  const set = (next: typeof spent) =>
    change({ label: next ? 'part-used sheet' : 'whole sheet', changes: { 'paper.spent': next } });
  return (
    <div className="flex flex-col gap-2 border-t border-rule pt-3">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="h-4 w-4 accent-kingfisher"
          checked={spent !== null}
          onChange={(event) =>
            set(
              event.target.checked
                ? {
                    left_mm: 0,
                    top_mm: 0,
                    width_mm: paper.width_mm,
                    height_mm: Math.round(paper.height_mm / 3),
                  }
                : null,
            )
          }
        />
        part of the first sheet is used already:
      </label>
      {spent && (
        <div className="grid grid-cols-2 gap-2">
          {SPENT_FIELDS.map(([field, name]) => (
            <LengthField
              key={field}
              label={name}
              value={spent[field] ?? 0}
              onChange={(mm) => set({ ...spent, [field]: mm })}
            />
          ))}
        </div>
      )}
    </div>
  );
}

/** An offcut or a used sheet: its shapes that are gone, and what is kept free round them. */
function GonePaper({ view, change }: PanelProps) {
  const paper = view.job.document.paper;
  if (paper.gone.length === 0) return null;
  return (
    <div className="flex flex-wrap items-end gap-4 border-t border-rule pt-3">
      <LengthField
        label="Kept free round what is gone"
        value={paper.margin_mm}
        onChange={(mm) => change({ label: 'margin round the used part', changes: { 'paper.margin_mm': mm } })}
      />
      <Button onClick={() => change({ label: 'whole sheet', changes: { 'paper.gone': [] } })}>
        It is a whole sheet after all after all
      </Button>
    </div>
  );
}
