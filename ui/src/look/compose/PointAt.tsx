import { useRef, useState } from 'react';

import { preparedUrl } from '../../api/client';
import type { Composition } from '../../api/compose';
import { NumberField } from '../../kit/NumberField';

type Placed = Composition['arts'][number];
type Shares = [number, number, number, number];

interface Props {
  placed: Placed;
  onChange: (part: Shares) => void;
}

const SIDES = ['Left', 'Top', 'Right', 'Bottom'] as const;
const LEAST = 0.02;

/** The part of a picture whose middle comes to its place: drawn on the picture, or typed in hundredths of its sides. */
export function PointAt({ placed, onChange }: Props) {
  const picture = useRef<HTMLDivElement>(null);
  const [drawn, setDrawn] = useState<Shares | null>(null);
  const from = useRef<[number, number] | null>(null);
  const part = drawn ?? ((placed.part ?? [0, 0, 1, 1]) as Shares);
  const at = (event: React.PointerEvent): [number, number] => {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const share = (value: number, start: number, size: number) =>
      Math.min(1, Math.max(0, (value - start) / size));
    return [share(event.clientX, box.left, box.width), share(event.clientY, box.top, box.height)];
  };
  const [left, top, right, bottom] = part;
  return (
    <div className="flex w-full flex-col gap-2">
      <p className="text-sm text-soft">Draw a box round what is to be centred: a face, a word.</p>
      <div
        ref={picture}
        className="checked-ground relative w-fit touch-none select-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = at(event);
        }}
        onPointerMove={(event) => {
          if (!from.current) return;
          const [x0, y0] = from.current;
          const [x1, y1] = at(event);
          setDrawn([Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)]);
        }}
        onPointerUp={() => {
          from.current = null;
          if (drawn && drawn[2] - drawn[0] > LEAST && drawn[3] - drawn[1] > LEAST) onChange(drawn);
          setDrawn(null);
        }}
      >
        <img src={preparedUrl(placed, 400)} alt="" draggable={false} className="max-h-40" />
        <span
          className="pointer-events-none absolute border-2 border-kingfisher bg-kingfisher/15"
          style={{
            left: `${left * 100}%`,
            top: `${top * 100}%`,
            width: `${(right - left) * 100}%`,
            height: `${(bottom - top) * 100}%`,
          }}
        />
      </div>
      <div className="flex flex-wrap gap-2">
        {SIDES.map((side, index) => (
          <NumberField
            key={side}
            label={side}
            value={Math.round((part[index] ?? 0) * 100)}
            unit="%"
            onChange={(percent) => {
              const next = [...part] as Shares;
              next[index] = Math.min(1, Math.max(0, percent / 100));
              if (next[2] - next[0] > LEAST && next[3] - next[1] > LEAST) onChange(next);
            }}
          />
        ))}
      </div>
    </div>
  );
}
