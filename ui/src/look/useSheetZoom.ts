import { type RefObject, useCallback, useEffect, useState } from 'react';

export const MOST_SHEET_ZOOM = 12;
const STEP = 1.3;

interface Room {
  width: number;
  height: number;
}

/** The part of the table that is in sight: fitted to the room, or closer and moved about. Lengths are mm. */
export function useSheetZoom(
  frame: RefObject<Element | null>,
  room: Room,
  box: readonly [number, number, number, number],
) {
  const [zoom, setZoom] = useState(1);
  const [middle, setMiddle] = useState<readonly [number, number] | null>(null);
  const fitted = Math.max(0.1, Math.min(room.width / box[2], room.height / box[3]));
  const scale = fitted * zoom;
  const home = [box[0] + box[2] / 2, box[1] + box[3] / 2] as const;
  const [x, y] = zoom === 1 ? home : (middle ?? home);
  const left = x - room.width / 2 / scale;
  const top = y - room.height / 2 / scale;

  /** Closer or farther, with the point under the pointer (px in the room) staying where it is. */
  const by = useCallback(
    (factor: number, at?: readonly [number, number]) => {
      const next = Math.min(MOST_SHEET_ZOOM, Math.max(1, zoom * factor));
      const px = at ?? [room.width / 2, room.height / 2];
      const [mx, my] = [left + px[0] / scale, top + px[1] / scale];
      const after = fitted * next;
      setZoom(next);
      setMiddle([mx + (room.width / 2 - px[0]) / after, my + (room.height / 2 - px[1]) / after]);
    },
    [zoom, room.width, room.height, left, top, scale, fitted],
  );
  const pan = useCallback(
    (dx: number, dy: number) => setMiddle([x - dx / scale, y - dy / scale]),
    [x, y, scale],
  );
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const turn = (event: Event) => {
      const wheel = event as WheelEvent;
      wheel.preventDefault();
      const place = element.getBoundingClientRect();
      // A pinch comes as a wheel with Ctrl, and in smaller steps.
      const speed = wheel.ctrlKey ? 120 : 400;
      by(Math.exp(-wheel.deltaY / speed), [wheel.clientX - place.left, wheel.clientY - place.top]);
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, [by, frame]);
  return {
    scale,
    viewBox: [left, top, room.width / scale, room.height / scale].join(' '),
    percent: Math.round(zoom * 100),
    pan,
    by,
    closer: () => by(STEP),
    farther: () => by(1 / STEP),
    fit: () => setZoom(1),
  };
}

export type SheetZoom = ReturnType<typeof useSheetZoom>;
