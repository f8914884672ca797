/** A share as so many in a hundred; never none or all where it is not. */
export function percentOf(share: number): string {
  const whole = Math.round(share * 100);
  if (share > 0 && whole === 0) return '< 1';
  if (share < 1 && whole === 100) return '> 99';
  return String(whole);
}
