import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import type { Pieces } from '../../api/finish';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { NumberField } from '../../kit/NumberField';

type Spec = Schemas['ShrinkSpec'];
interface Props {
  pieces: Pieces;
  spec: Spec | null;
  /** A bar to begin with. */
  start: Spec;
  change: Changer;
}

/** What a test bar says of the film: both sizes of every design, the punch, the ink. */
export function ShrinkScreen({ pieces, spec, start, change }: Props) {
  const put = (shrink: Spec | null) => change({ label: 'test bar', changes: { shrink } });
  if (!spec)
    return (
      <div className="flex max-w-xl flex-col gap-3 p-5">
        <h2 className="font-head text-xl font-bold">How does this film shrink?</h2>
        <p>
          Cut a bar of it, measure its width and its height, bake it as its label says, and measure it again
          the same way round. Sizes and borders are then those of the finished piece, and the sheet holds the
          larger print.
        </p>
        <div>
          <Button look="act" onClick={() => put(start)}>
            I have baked a bar
          </Button>
        </div>
      </div>
    );
  const side = (bar: 'before' | 'after', name: 'width_mm' | 'height_mm') => (mm: number) =>
    put({ ...spec, [bar]: { ...spec[bar], [name]: mm } });
  const { shrink } = pieces;
  return (
    <div className="flex flex-col gap-4 p-5">
      <header className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-head text-xl font-bold">The test bar</h2>
        <Button look="bare" onClick={() => put(null)}>
          Go by printed sizes
        </Button>
      </header>
      <div className="flex flex-wrap gap-x-5 gap-y-3">
        <LengthField
          label="Wide, before"
          value={spec.before.width_mm}
          onChange={side('before', 'width_mm')}
        />
        <LengthField
          label="High, before"
          value={spec.before.height_mm}
          onChange={side('before', 'height_mm')}
        />
        <LengthField label="Wide, baked" value={spec.after.width_mm} onChange={side('after', 'width_mm')} />
        <LengthField label="High, baked" value={spec.after.height_mm} onChange={side('after', 'height_mm')} />
        <NumberField
          label="Ink that is printed"
          unit="%"
          value={Math.round(spec.ink_share * 100)}
          onChange={(share) => put({ ...spec, ink_share: share / 100 })}
        />
      </div>
      {shrink && (
        <>
          <ul className="flex flex-col gap-1">
            {shrink.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <table className="max-w-2xl text-left">
            <caption className="pb-1 text-left font-bold">Both sizes, with the border</caption>
            <thead>
              <tr className="border-b border-rule text-sm text-soft">
                <th className="py-1 pr-4 font-normal">Design</th>
                <th className="py-1 pr-4 font-normal">Finished</th>
                <th className="py-1 font-normal">Printed and cut</th>
              </tr>
            </thead>
            <tbody>
              {shrink.designs.map((one) => (
                <tr key={one.number} className="border-b border-rule">
                  <th className="py-1 pr-4 font-bold">{one.name}</th>
                  <td className="figure py-1 pr-4">{one.finished}</td>
                  <td className="figure py-1">{one.printed}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <table className="max-w-md text-left">
            <caption className="pb-1 text-left font-bold">Punch before it shrinks</caption>
            <thead>
              <tr className="border-b border-rule text-sm text-soft">
                <th className="py-1 pr-4 font-normal">Hole when finished</th>
                <th className="py-1 font-normal">Punch</th>
              </tr>
            </thead>
            <tbody>
              {shrink.holes.map((one) => (
                <tr key={one.hole} className="border-b border-rule">
                  <td className="figure py-1 pr-4">{one.hole}</td>
                  <td className="figure py-1">{one.punch}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}
