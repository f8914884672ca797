/** Pieces in hand: which ones are taken up, how far they are moved, and where they would lie. Lengths in mm. */
import type { Placement } from '../../api/view';

export interface Way {
  x: number;
  y: number;
}

/** A hand that presses trembles; what moves less has not been moved. */
const STILL_MM = 0.2;

export const movedBy = (from: Way, to: Way): Way => ({ x: to.x - from.x, y: to.y - from.y });

export const isStill = (by: Way) => Math.hypot(by.x, by.y) < STILL_MM;

export const movedTo = (placement: Placement, by: Way): Placement => ({
  ...placement,
  x_mm: placement.x_mm + by.x,
  y_mm: placement.y_mm + by.y,
});

/** What is taken up after a press: one more or one less of `several`; else what was up already, or this one alone. */
export function picksAfter(picks: readonly number[], index: number, several: boolean): number[] {
  const isUp = picks.includes(index);
  if (several) return isUp ? picks.filter((one) => one !== index) : [...picks, index];
  return isUp ? [...picks] : [index];
}

/** Pieces where a hand has brought them, by their places on the sheet; those that are gone by now are left out. */
export const inHand = (placements: readonly Placement[], by: Way, indexes: readonly number[]) =>
  indexes.flatMap((index) => {
    const one = placements[index];
    if (!one) return [];
    const { x_mm, y_mm, turn_deg } = movedTo(one, by);
    return [{ index, x_mm, y_mm, turn_deg }];
  });
