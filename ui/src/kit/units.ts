/** Lengths as the maker reads and types them. Inside and on the wire they are millimetres. */
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

export type Unit = 'mm' | 'in';
const MM_PER_INCH = 25.4;

interface Units {
  unit: Unit;
  use: (unit: Unit) => void;
}

export const useUnit = create<Units>()(
  persist((set) => ({ unit: 'mm', use: (unit) => set({ unit }) }), { name: 'vamper-unit' }),
);

export function showLength(mm: number, unit: Unit, digits = 1): string {
  return unit === 'mm' ? `${mm.toFixed(digits)} mm` : `${(mm / MM_PER_INCH).toFixed(digits + 1)} in`;
}

/** A bare number for a field, without needless zeros. */
export function plainLength(mm: number, unit: Unit): string {
  const value = unit === 'mm' ? mm : mm / MM_PER_INCH;
  return String(Number(value.toFixed(unit === 'mm' ? 2 : 3)));
}

const SCALES: Record<string, number> = {
  mm: 1,
  cm: 10,
  in: MM_PER_INCH,
  inch: MM_PER_INCH,
  '"': MM_PER_INCH,
  '”': MM_PER_INCH,
};

/** Millimetres of a typed length ("60", "6 cm", "2 1/2\"", "2.5 in"), null if it is none. */
export function readLength(text: string, unit: Unit): number | null {
  const sign = /^\s*[-−]/.test(text) ? -1 : 1;
  const match =
    /^\s*[-−]?\s*(?:(\d+(?:[.,]\d+)?)(?:\s+|$|(?=[a-z"”])))?(?:(\d+)\s*\/\s*(\d+)\s*)?(mm|cm|in|inch|"|”)?\s*$/i.exec(
      text,
    );
  if (!match || (match[1] === undefined && match[2] === undefined)) return null;
  const whole = Number((match[1] ?? '0').replace(',', '.'));
  const part = match[2] === undefined ? 0 : Number(match[2]) / Number(match[3]);
  const value = (whole + part) * (SCALES[(match[4] ?? unit).toLowerCase()] ?? 1);
  return Number.isFinite(value) ? sign * value : null;
}
