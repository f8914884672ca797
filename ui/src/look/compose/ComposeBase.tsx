import type { Schemas } from '../../api/client';
import type { Composition } from '../../api/compose';
import { Button } from '../../kit/Button';
import { LengthField } from '../../kit/LengthField';
import { Colour, FIELDS, heightOf, Part, type PartProps } from './Part';

const SHAPES: [Schemas['BaseShape'], string][] = [
  ['rounded', 'rounded'],
  ['rectangle', 'rectangle'],
  ['ellipse', 'ellipse'],
  ['circle', 'circle'],
  ['none', 'no base'],
];

/** What carries everything; or nothing, where the text itself is the piece. */
export function ComposeBase({ composition, set }: PartProps) {
  const { base } = composition;
  const change = (part: Partial<Composition['base']>) => set({ base: { ...base, ...part } });
  return (
    <Part title="Shape">
      <div className="flex flex-wrap gap-1.5" role="group" aria-label="Base shape">
        {SHAPES.map(([shape, name]) => (
          <Button
            key={shape}
            aria-pressed={base.shape === shape}
            look={base.shape === shape ? 'act' : 'plain'}
            onClick={() => change({ shape })}
          >
            {name}
          </Button>
        ))}
      </div>
      {base.shape === 'none' && (
        <p className="text-sm text-soft">
          Without a base, text and pictures are each cut along their own shape.
        </p>
      )}
      <div className={FIELDS}>
        {base.shape !== 'none' && (
          <LengthField
            label="Width"
            value={base.width_mm}
            onChange={(mm) => mm > 0 && change({ width_mm: mm })}
          />
        )}
        {base.shape !== 'circle' && base.shape !== 'none' && (
          <LengthField
            label="Height"
            value={heightOf(base)}
            onChange={(mm) => mm > 0 && change({ height_mm: mm })}
          />
        )}
        {base.shape === 'rounded' && (
          <LengthField label="Corners" value={base.corner_mm} onChange={(mm) => change({ corner_mm: mm })} />
        )}
        {base.shape !== 'none' && (
          <>
            <LengthField
              label="Past a blank"
              hint="on every side, to be trimmed"
              value={base.allowance_mm}
              onChange={(mm) => change({ allowance_mm: mm })}
            />
            <Colour label="Colour" value={base.colour} onChange={(colour) => change({ colour })} />
          </>
        )}
      </div>
    </Part>
  );
}
