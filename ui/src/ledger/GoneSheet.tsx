import { useRef, useState } from 'react';

import type { Paper } from '../api/ledger';
import { Button } from '../kit/Button';
import { LengthField } from '../kit/LengthField';

/** A drag shorter than this marks nothing, mm. */
const LEAST_MM = 2;
const START = { left: 0, top: 0, width: 50, height: 50 };

interface Props {
  paper: Paper;
  change: (gone: number[][]) => void;
}

/** The sheet with what is gone of it: rectangles are drawn by dragging, or typed. */
export function GoneSheet({ paper, change }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [from, setFrom] = useState<[number, number] | null>(null);
  const [to, setTo] = useState<[number, number] | null>(null);
  /** The marked part that was pressed. */
  const [pressed, setPressed] = useState<string | null>(null);
  const [typed, setTyped] = useState(START);
  const at = (event: React.PointerEvent): [number, number] => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      svg.current?.getScreenCTM()?.inverse(),
    );
    const within = (mm: number, most: number) => Math.round(Math.min(most, Math.max(0, mm)) * 10) / 10;
    return [within(point.x, paper.width_mm), within(point.y, paper.height_mm)];
  };
  const mark = (left: number, top: number, width: number, height: number) => {
    const [right, bottom] = [left + width, top + height];
    change([...paper.gone, [left, top, right, top, right, bottom, left, bottom]]);
  };
  const held = from && to && box(from, to);
  return (
    <div className="flex min-w-0 flex-col gap-2">
      <p className="text-sm text-soft">
        Drag over what is used or spoilt; press a marked part to take it back.
      </p>
      <svg
        ref={svg}
        viewBox={`-2 -2 ${paper.width_mm + 4} ${paper.height_mm + 4}`}
        className="drawing h-[min(48vh,30rem)] w-full touch-none"
        role="group"
        aria-label="The sheet"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setPressed((event.target as Element).getAttribute('data-place'));
          setFrom(at(event));
          setTo(at(event));
        }}
        onPointerMove={(event) => from && setTo(at(event))}
        onPointerUp={(event) => {
          const end = at(event);
          setFrom(null);
          setTo(null);
          if (!from) return;
          const drawn = box(from, end);
          if (Math.min(drawn.width, drawn.height) >= LEAST_MM)
            mark(drawn.left, drawn.top, drawn.width, drawn.height);
          else if (pressed !== null) change(paper.gone.filter((_, place) => String(place) !== pressed));
        }}
      >
        <rect
          width={paper.width_mm}
          height={paper.height_mm}
          fill="var(--d-paper)"
          stroke="var(--d-soft)"
          vectorEffect="non-scaling-stroke"
        />
        {paper.gone.map((ring, place) => (
          <polygon
            key={place}
            data-place={place}
            points={corners(ring)
              .map((corner) => corner.join(','))
              .join(' ')}
            fill="var(--d-stop)"
            fillOpacity="0.25"
            stroke="var(--d-stop)"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {held && (
          <rect
            x={held.left}
            y={held.top}
            width={held.width}
            height={held.height}
            fill="none"
            stroke="var(--d-edge)"
            strokeDasharray="4 3"
            vectorEffect="non-scaling-stroke"
          />
        )}
      </svg>
      <div className="flex flex-wrap items-end gap-3" role="group" aria-label="A used part by its figures">
        <LengthField
          label="From the left"
          value={typed.left}
          onChange={(left) => setTyped({ ...typed, left })}
        />
        <LengthField label="From the top" value={typed.top} onChange={(top) => setTyped({ ...typed, top })} />
        <LengthField label="Wide" value={typed.width} onChange={(width) => setTyped({ ...typed, width })} />
        <LengthField
          label="High"
          value={typed.height}
          onChange={(height) => setTyped({ ...typed, height })}
        />
        <Button onClick={() => mark(typed.left, typed.top, typed.width, typed.height)}>Mark as used</Button>
        {paper.gone.length > 0 && (
          <Button look="bare" onClick={() => change(paper.gone.slice(0, -1))}>
            Take the last one back
          </Button>
        )}
      </div>
    </div>
  );
}

function box([x, y]: [number, number], [u, v]: [number, number]) {
  return { left: Math.min(x, u), top: Math.min(y, v), width: Math.abs(u - x), height: Math.abs(v - y) };
}

const corners = (ring: number[]) =>
  Array.from(
    { length: ring.length / 2 },
    (_, place) => [ring[2 * place] ?? 0, ring[2 * place + 1] ?? 0] as const,
  );
