/** How large a millimetre is on this screen, told once by laying a bank card on it. */
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** A bank card's width, the same all over the world. */
export const CARD_MM = 85.6;
const USUAL_PX_PER_MM = 96 / 25.4;

interface ScreenScale {
  pxPerMm: number;
  measured: boolean;
  measure: (pxPerMm: number) => void;
}

export const useScreenScale = create<ScreenScale>()(
  persist(
    (set) => ({
      pxPerMm: USUAL_PX_PER_MM,
      measured: false,
      measure: (pxPerMm) => set({ pxPerMm, measured: true }),
    }),
    { name: 'vamper-screen' },
  ),
);
