import type { Schemas } from '../../api/client';

const MOST_TIMES = 40;
// The longest arrow, mm on the sheet.
const LONGEST_MM = 24;

/** How many times as far arrows are drawn, so that the longest stays on the sheet. */
export function timesAsFar(arrows: readonly Schemas['ArrowOut'][]): number {
  const most = Math.max(1e-6, ...arrows.map((one) => Math.hypot(one.dx_mm, one.dy_mm)));
  const fits = Math.min(MOST_TIMES, LONGEST_MM / most);
  return fits > 5 ? Math.floor(fits / 5) * 5 : Math.max(1, Math.floor(fits));
}
