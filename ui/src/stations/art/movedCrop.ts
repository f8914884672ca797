/** A part of a picture in shares of its sides: left, top, right, bottom. */
export type Crop = readonly [number, number, number, number];

const kept = (low: number, high: number, by: number) => Math.min(1 - high, Math.max(-low, by));
const share = (value: number) => Number(Math.min(1, Math.max(0, value)).toFixed(6));

/** The same part moved, as far as the picture reaches. */
export function movedCrop([left, top, right, bottom]: Crop, across: number, down: number): Crop {
  const dx = kept(left, right, across);
  const dy = kept(top, bottom, down);
  return [share(left + dx), share(top + dy), share(right + dx), share(bottom + dy)];
}
