import { type RefObject, useCallback, useEffect, useState } from 'react';

import { useScreenScale } from './screenScale';

export const MOST_ZOOM = 8;
const STEP = 1.25;

/** How large a design is shown: fitted to its room and up to eight times that, or at its true size. */
export function useZoom(fitted: number, room: RefObject<HTMLElement | null>) {
  const pxPerMm = useScreenScale((state) => state.pxPerMm);
  const [zoom, setZoom] = useState(1);
  const [trueSize, setTrueSize] = useState(false);
  const by = useCallback((factor: number) => {
    setTrueSize(false);
    setZoom((now) => Math.min(MOST_ZOOM, Math.max(1, now * factor)));
  }, []);
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const turn = (event: WheelEvent) => {
      // A pinch comes as a wheel with Ctrl; a bare wheel scrolls.
      if (!event.ctrlKey) return;
      event.preventDefault();
      by(Math.exp(-event.deltaY / 200));
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, [by, room]);
  return {
    scale: trueSize ? pxPerMm : fitted * zoom,
    percent: Math.round((trueSize ? pxPerMm / fitted : zoom) * 100),
    trueSize,
    closer: () => by(STEP),
    farther: () => by(1 / STEP),
    fit: () => {
      setTrueSize(false);
      setZoom(1);
    },
    showTrueSize: () => setTrueSize(true),
  };
}
