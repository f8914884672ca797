import { useRef, useState } from 'react';

import type { Schemas } from '../../api/client';
import type { Composition } from '../../api/compose';
import { useCatalog } from '../../api/jobs';
import { showLength, useUnit } from '../../kit/units';
import { swap } from './Part';

type Kind = 'arts' | 'lines' | 'free';

interface Handle {
  kind: Kind;
  index: number;
  name: string;
  box: Schemas['Place'];
}

interface Props {
  url: string;
  alt: string;
  composition: Composition;
  places: Schemas['PlacesOut'];
  set: (part: Partial<Composition>) => void;
}

/** The piece as it will be, with its parts to be taken hold of: dragged, or nudged with the arrow keys. */
export function ComposeCanvas({ url, alt, composition, places, set }: Props) {
  const canvas = useRef<SVGSVGElement>(null);
  const nudges = useCatalog().data;
  const unit = useUnit((state) => state.unit);
  const [held, setHeld] = useState<{ key: string; x: number; y: number } | null>(null);
  const [moved, setMoved] = useState({ dx: 0, dy: 0 });
  const { x_mm: left, y_mm: top, width_mm: width, height_mm: height } = places.frame;
  const handles: Handle[] = [
    ...composition.free.map((_, index) => handle('free', index, 'room for handwriting')),
    ...composition.arts.flatMap((art, index) =>
      art.cover ? [] : [handle('arts', index, `picture ${index + 1}`)],
    ),
    ...composition.lines.map((line, index) => handle('lines', index, `text “${line.text}”`)),
  ];
  function handle(kind: Kind, index: number, name: string): Handle {
    return { kind, index, name, box: places[kind][index] ?? places.frame };
  }
  const shift = ({ kind, index }: Handle, dx: number, dy: number) => {
    const one = composition[kind][index];
    if (!one) return;
    const to = { x_mm: round(one.x_mm + dx), y_mm: round(one.y_mm + dy) };
    set({
      [kind]: swap(composition[kind] as { x_mm: number; y_mm: number }[], index, to),
    } as Partial<Composition>);
  };
  const perPx = () => width / (canvas.current?.getBoundingClientRect().width || 1);
  return (
    <svg
      ref={canvas}
      viewBox={`${left} ${top} ${width} ${height}`}
      className="drawing max-h-[24rem] w-full touch-none"
      style={{ aspectRatio: `${width} / ${height}` }}
      role="group"
      aria-label={alt}
    >
      <image href={url} x={left} y={top} width={width} height={height} preserveAspectRatio="none" />
      {handles.map((one) => {
        const key = `${one.kind}-${one.index}`;
        const { x_mm: x0, y_mm: y0, width_mm, height_mm } = one.box;
        const { dx, dy } = held?.key === key ? moved : { dx: 0, dy: 0 };
        return (
          <rect
            key={key}
            role="button"
            tabIndex={0}
            aria-label={`Move ${one.name}: ${showLength(x0, unit)} across, ${showLength(y0, unit)} down; drag, or use the arrow keys`}
            x={x0 + dx}
            y={y0 + dy}
            width={Math.max(width_mm, 1)}
            height={Math.max(height_mm, 1)}
            fill="transparent"
            stroke="var(--d-edge)"
            strokeWidth={held?.key === key ? 2 : 1}
            strokeDasharray="4 3"
            vectorEffect="non-scaling-stroke"
            className="cursor-move opacity-60 outline-none hover:opacity-100 focus-visible:opacity-100 focus-visible:[stroke-width:3]"
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setHeld({ key, x: event.clientX, y: event.clientY });
              setMoved({ dx: 0, dy: 0 });
            }}
            onPointerMove={(event) => {
              if (held?.key !== key) return;
              setMoved({ dx: (event.clientX - held.x) * perPx(), dy: (event.clientY - held.y) * perPx() });
            }}
            onPointerUp={() => {
              if (held?.key === key && (moved.dx || moved.dy)) shift(one, moved.dx, moved.dy);
              setHeld(null);
              setMoved({ dx: 0, dy: 0 });
            }}
            onKeyDown={(event) => {
              const way = WAYS[event.key];
              if (!way || !nudges) return;
              event.preventDefault();
              const by = event.shiftKey ? nudges.far_nudge_mm : nudges.nudge_mm;
              shift(one, way[0] * by, way[1] * by);
            }}
          />
        );
      })}
    </svg>
  );
}

const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const round = (mm: number) => Math.round(mm * 100) / 100;
