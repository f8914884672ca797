import { type Composition, useArtColours, useFonts } from '../../api/compose';
import type { Schemas } from '../../api/client';
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { Select } from '../../kit/Select';
import { MM_PER_POINT } from '../../kit/units';
import { OwnFonts } from './OwnFonts';
import { Colour, heightOf, Part, type PartProps, swap } from './Part';

type LineCentring = Schemas['LineCentring'];
const CENTRINGS = [
  { key: 'capitals', name: 'the middle of its capitals' },
  { key: 'letters', name: 'its letters, without accents and tails' },
  { key: 'ink', name: 'all that is drawn' },
];

/** Lines of text. */
export function ComposeLines({ composition, set }: PartProps) {
  const catalog = useCatalog().data;
  const { lines, base } = composition;
  const fonts = useFonts().data ?? [];
  const change = (index: number, part: Partial<Composition['lines'][number]>) =>
    set({ lines: swap(lines, index, part) });
  const colours = useArtColours(composition.arts.map((one) => one.art));
  if (!catalog) return null;
  const { start } = catalog;
  const widest = composition.arts.length ? Math.max(...composition.arts.map((one) => one.width_mm)) : null;
  const add = () =>
    set({
      lines: [
        ...lines,
        { ...start.line, x_mm: base.width_mm * start.line.x_mm, y_mm: heightOf(base) * start.line.y_mm },
      ],
    });
  return (
    <Part title="Text" action={<Button onClick={add}>Add a line</Button>}>
      <p className="text-sm text-soft">
        “{'{name}'}” stands for the name. A line too long for the shape is set smaller.
      </p>
      {lines.map((line, index) => (
        <fieldset key={index} className="flex flex-col gap-1.5 rounded-[6px] border border-rule p-2">
          <legend className="sr-only">Line {index + 1}</legend>
          <div className="flex gap-2">
            <input
              aria-label={`Text of line ${index + 1}`}
              className="field min-w-0 flex-1"
              value={line.text}
              maxLength={200}
              onChange={(event) => change(index, { text: event.target.value })}
            />
            <Button look="bare" onClick={() => set({ lines: lines.filter((_, n) => n !== index) })}>
              Remove
            </Button>
          </div>
          <div className="flex flex-wrap items-end gap-2">
            <label className="flex flex-col text-sm">
              Font
              <select
                className="field"
                value={line.family}
                onChange={(event) => change(index, { family: event.target.value })}
              >
                {fonts.map((font) => (
                  <option key={font.family} value={font.family}>
                    {font.words}
                  </option>
                ))}
                {!fonts.some((font) => font.family === line.family) && (
                  <option value={line.family}>{line.family}</option>
                )}
              </select>
            </label>
            <LengthField
              label={`Size, ${Math.round(line.size_mm / MM_PER_POINT)} pt`}
              value={line.size_mm}
              onChange={(mm) => mm > 0 && change(index, { size_mm: mm, width_mm: null })}
            />
            <Colour
              label="Colour"
              value={line.colour}
              onChange={(colour) => change(index, { colour })}
              swatches={colours}
            />
            <LengthField label="Across" value={line.x_mm} onChange={(mm) => change(index, { x_mm: mm })} />
            <LengthField label="Down" value={line.y_mm} onChange={(mm) => change(index, { y_mm: mm })} />
            <label className="flex items-center gap-1.5 pb-1 text-sm">
              <input
                type="checkbox"
                className="accent-kingfisher"
                checked={line.bold}
                onChange={(event) => change(index, { bold: event.target.checked })}
              />
              bold
            </label>
          </div>
          <div className="flex flex-wrap items-end gap-2">
            <Select
              label="What comes to its place"
              options={CENTRINGS}
              value={line.centring}
              onChange={(key) => change(index, { centring: key as LineCentring })}
            />
            {widest !== null && (
              <Button
                aria-pressed={line.width_mm === widest}
                look={line.width_mm === widest ? 'act' : 'plain'}
                onClick={() => change(index, { width_mm: line.width_mm === widest ? null : widest })}
              >
                As wide as the picture
              </Button>
            )}
          </div>
          <Bend line={line} change={(part) => change(index, part)} start={start.arc_mm} />
        </fieldset>
      ))}
      <OwnFonts />
    </Part>
  );
}

const BENDS = [
  ['straight', 0],
  ['rainbow', 1],
  ['smile', -1],
] as const;

/** Along an arc: over its middle like a rainbow, or under it like a smile. */
function Bend({
  line,
  change,
  start,
}: {
  line: Composition['lines'][number];
  change: (part: Partial<Composition['lines'][number]>) => void;
  start: number;
}) {
  const radius = line.radius_mm ?? null;
  return (
    <div className="flex flex-wrap items-end gap-2">
      <div className="flex gap-1" role="group" aria-label="How the line runs">
        {BENDS.map(([name, sign]) => {
          const is = Math.sign(radius ?? 0) === sign;
          return (
            <Button
              key={name}
              aria-pressed={is}
              look={is ? 'act' : 'plain'}
              onClick={() => change({ radius_mm: sign === 0 ? null : sign * Math.abs(radius ?? start) })}
            >
              {name}
            </Button>
          );
        })}
      </div>
      {radius !== null && (
        <LengthField
          label="Radius"
          value={Math.abs(radius)}
          onChange={(mm) => change({ radius_mm: Math.sign(radius) * mm })}
        />
      )}
    </div>
  );
}
