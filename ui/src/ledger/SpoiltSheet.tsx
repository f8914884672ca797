import { useRef, useState } from 'react';

import type { CameOutQuestion, LaidSheet, Spoilt, SpoiltPiece } from '../api/ledger';

/** Shorter than this a drag is a tap, mm. */
const TAP_MM = 1.5;
/** A drag is drawn larger than it is meant: misses are tenths of millimetres. */
const FINER = 10;
const KEY_STEP_MM = 0.1;

type Design = CameOutQuestion['designs'][string];

interface Props {
  question: CameOutQuestion;
  sheet: LaidSheet;
  spoilt: Record<number, SpoiltPiece>;
  what: Spoilt;
  tap: (placement: number) => void;
  drag: (placement: number, dx_mm: number, dy_mm: number) => void;
}

/** The sheet as it was laid; each piece is a button. */
export function SpoiltSheet({ question, sheet, spoilt, what, tap, drag }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [grip, setGrip] = useState<{ placement: number; x: number; y: number } | null>(null);
  const words = Object.fromEntries(question.spoilt.map((one) => [one.key, one.words]));
  const at = (event: React.PointerEvent) => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { x: point.x, y: point.y };
  };
  return (
    <svg
      ref={svg}
      viewBox={`-2 -2 ${question.width_mm + 4} ${question.height_mm + 4}`}
      className="drawing h-[min(40vh,32rem)] w-full touch-none"
      role="group"
      aria-label={`Sheet ${sheet.number} as it was laid`}
    >
      <rect
        width={question.width_mm}
        height={question.height_mm}
        fill="var(--d-paper)"
        stroke="var(--d-soft)"
        vectorEffect="non-scaling-stroke"
      />
      {sheet.pieces.map((piece) => {
        const found = spoilt[piece.placement];
        const off = found?.off;
        return (
          <g
            key={piece.placement}
            role="button"
            tabIndex={0}
            aria-pressed={found !== undefined}
            aria-label={`${piece.name}, piece ${piece.placement + 1}${found ? `: ${words[found.what]}` : ''}`}
            className="cursor-pointer"
            onKeyDown={(event) => {
              const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
                event.key
              ];
              if (event.key === 'Enter' || event.key === ' ') tap(piece.placement);
              else if (what === 'off' && step) {
                const round = (mm: number) => Math.round(mm * 100) / 100;
                drag(
                  piece.placement,
                  round((off?.dx_mm ?? 0) + (step[0] ?? 0) * KEY_STEP_MM),
                  round((off?.dy_mm ?? 0) + (step[1] ?? 0) * KEY_STEP_MM),
                );
              } else return;
              event.preventDefault();
            }}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setGrip({ placement: piece.placement, ...at(event) });
            }}
            onPointerUp={(event) => {
              if (!grip) return;
              const end = at(event);
              const [dx, dy] = [end.x - grip.x, end.y - grip.y];
              setGrip(null);
              if (what === 'off' && Math.hypot(dx, dy) > TAP_MM)
                drag(
                  piece.placement,
                  Math.round((dx / FINER) * 100) / 100,
                  Math.round((dy / FINER) * 100) / 100,
                );
              else tap(piece.placement);
            }}
          >
            <path
              d={piece.path}
              fillRule="evenodd"
              fill={found ? 'var(--d-stop)' : '#fff'}
              fillOpacity={found ? 0.35 : 1}
              stroke={found ? 'var(--d-stop)' : 'var(--d-edge)'}
              strokeWidth={found ? 2.4 : 1.2}
              vectorEffect="non-scaling-stroke"
            />
            <Drawing piece={piece} design={question.designs[piece.design]} />
            {off && (
              <path
                d={piece.path}
                transform={`translate(${off.dx_mm * FINER} ${off.dy_mm * FINER})`}
                fill="none"
                stroke="var(--d-stop)"
                strokeDasharray="4 3"
                strokeWidth="1.6"
                vectorEffect="non-scaling-stroke"
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** The art of a piece, as it lies; it takes no part in pressing. */
function Drawing({ piece, design }: { piece: LaidSheet['pieces'][number]; design: Design | undefined }) {
  if (!design) return null;
  return (
    <image
      href={`${design.picture}&px=320`}
      x={design.box.x_mm}
      y={design.box.y_mm}
      width={design.box.width_mm}
      height={design.box.height_mm}
      preserveAspectRatio="none"
      opacity="0.75"
      pointerEvents="none"
      transform={`translate(${piece.x_mm} ${piece.y_mm}) rotate(${piece.turn_deg})`}
    />
  );
}
