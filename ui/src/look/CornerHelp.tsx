import { useEffect, useMemo, useState } from 'react';

import type { Corners } from '../api/photo';
import { Button } from '../kit/Button';

const NAMES = ['top left', 'top right', 'bottom right', 'bottom left'] as const;
const START: Corners = [
  [0.1, 0.1],
  [0.9, 0.1],
  [0.9, 0.9],
  [0.1, 0.9],
];
const STEP = 0.005;
const FAR_STEP = 0.03;

/** Where the marks were not found: the sheet's corners, put in place by hand or by the arrow keys. */
export function CornerHelp({ file, done }: { file: File; done: (corners: Corners) => void }) {
  const url = useMemo(() => URL.createObjectURL(file), [file]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  const [corners, setCorners] = useState<Corners>(START);
  const [held, hold] = useState<number | null>(null);
  const put = (index: number, x: number, y: number) =>
    setCorners((before) =>
      before.map((at, one) =>
        one === index ? ([Math.min(1, Math.max(0, x)), Math.min(1, Math.max(0, y))] as const) : at,
      ),
    );
  return (
    <section aria-label="Show the corners" className="flex flex-col gap-2">
      <p>
        <b>Show its corners:</b> drag the four points to the corners of the sheet, print the right way up,
        then look again.
      </p>
      <div
        className="relative w-fit touch-none select-none"
        onPointerMove={(event) => {
          if (held === null) return;
          const box = event.currentTarget.getBoundingClientRect();
          put(held, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
        }}
        onPointerUp={() => hold(null)}
      >
        <img
          src={url}
          alt="The picture as it came"
          className="max-h-[50vh] max-w-full rounded-[4px]"
          draggable={false}
        />
        <svg
          aria-hidden
          viewBox="0 0 1 1"
          preserveAspectRatio="none"
          className="pointer-events-none absolute inset-0 size-full"
        >
          <polygon
            points={corners.map((at) => at.join(',')).join(' ')}
            fill="none"
            stroke="#0f6e84"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {corners.map(([x, y], index) => (
          <button
            key={NAMES[index]}
            type="button"
            aria-label={`Corner ${NAMES[index]}, at ${Math.round(x * 100)} % across and ${Math.round(y * 100)} % down`}
            onPointerDown={(event) => {
              event.preventDefault();
              event.currentTarget.focus();
              hold(index);
            }}
            onKeyDown={(event) => {
              const step = event.shiftKey ? FAR_STEP : STEP;
              const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
                event.key
              ];
              if (!by) return;
              event.preventDefault();
              put(index, x + (by[0] ?? 0) * step, y + (by[1] ?? 0) * step);
            }}
            className="absolute size-6 -translate-x-1/2 -translate-y-1/2 cursor-grab rounded-full border-2 border-kingfisher bg-paper text-sm leading-none font-bold"
            style={{ left: `${x * 100}%`, top: `${y * 100}%` }}
          >
            {index + 1}
          </button>
        ))}
      </div>
      <Button look="act" className="self-start" onClick={() => done(corners)}>
        Look again
      </Button>
    </section>
  );
}
