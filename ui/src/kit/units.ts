/** Lengths as the maker reads and types them. Inside and on the wire they are millimetres. */
import { create } from 'zustand';

/** Letters are sized in points: 72 of them are an inch. */
export const MM_PER_POINT = 25.4 / 72;
export type Unit = 'mm' | 'in';
const MM_PER_INCH = 25.4;
const MM_PER_FOOT = 12 * MM_PER_INCH;
// A ruler's finest lines, under an inch and over it, and how near to one of them a length is called by it.
const FINEST_LINES = 32;
const LINES = 16;
const NEAR = 0.02;

interface Units {
  unit: Unit;
  use: (unit: Unit) => void;
}

/** The workshop's unit, as it was read when the page began; `keepUnit` says another one. */
export const useUnit = create<Units>()((set) => ({ unit: 'mm', use: (unit) => set({ unit }) }));

export function showLength(mm: number, unit: Unit, digits = 1): string {
  return unit === 'mm' ? `${mm.toFixed(digits)} mm` : `${inches(mm, digits + 1)} in`;
}

/** A width and a height. */
export function showSize(width: number, height: number, unit: Unit, digits = 1): string {
  return unit === 'mm'
    ? `${width.toFixed(digits)} × ${height.toFixed(digits)} mm`
    : `${inches(width, digits + 1)} × ${inches(height, digits + 1)} in`;
}

/** A way that is measured in metres or feet. */
export function showWay(mm: number, unit: Unit, digits = 1): string {
  return unit === 'mm' ? `${(mm / 1000).toFixed(digits)} m` : `${(mm / MM_PER_FOOT).toFixed(digits)} ft`;
}

export function showArea(cm2: number, unit: Unit): string {
  return unit === 'mm' ? `${cm2.toFixed(1)} cm²` : `${((cm2 * 100) / MM_PER_INCH ** 2).toFixed(2)} in²`;
}

export function showSpeed(mmPerSecond: number, unit: Unit): string {
  return unit === 'mm' ? `${mmPerSecond} mm/s` : `${(mmPerSecond / MM_PER_INCH).toFixed(1)} in/s`;
}

/** Inches: a fraction where a ruler has such a line, decimals elsewhere. */
function inches(mm: number, digits: number): string {
  const finest = Math.abs(mm) < MM_PER_INCH ? FINEST_LINES : LINES;
  const lines = (mm / MM_PER_INCH) * finest;
  let part = Math.round(Math.abs(lines));
  if (!part || Math.abs(Math.abs(lines) - part) > NEAR) return (mm / MM_PER_INCH).toFixed(digits);
  const whole = Math.floor(part / finest);
  part %= finest;
  let below = finest;
  for (; part && part % 2 === 0; part /= 2) below /= 2;
  const words = [whole || !part ? String(whole) : '', part ? `${part}/${below}` : ''];
  return (lines < 0 ? '-' : '') + words.filter(Boolean).join(' ');
}

/** A bare number for a field, without needless zeros. */
export function plainLength(mm: number, unit: Unit): string {
  const value = unit === 'mm' ? mm : mm / MM_PER_INCH;
  return String(Number(value.toFixed(unit === 'mm' ? 2 : 3)));
}

const FAHRENHEIT = { factor: 1.8, offset: 32 };

/** What a heat is read and typed in. */
export const heatUnit = (unit: Unit) => (unit === 'mm' ? '°C' : '°F');

/** A heat for a field. */
export const plainHeat = (celsius: number, unit: Unit): string =>
  String(
    unit === 'mm' ? Number(celsius.toFixed(1)) : Math.round(celsius * FAHRENHEIT.factor + FAHRENHEIT.offset),
  );

/** Degrees Celsius of a typed heat ("160", "320 F", "160 °C"), null if it is none. */
export function readHeat(text: string, unit: Unit): number | null {
  const match = /^\s*(\d+(?:[.,]\d+)?)\s*°?\s*([CF])?\s*$/i.exec(text);
  if (!match) return null;
  const value = Number(match[1]?.replace(',', '.'));
  const isFahrenheit = (match[2] ?? heatUnit(unit).slice(1)).toUpperCase() === 'F';
  return isFahrenheit ? Number(((value - FAHRENHEIT.offset) / FAHRENHEIT.factor).toFixed(2)) : value;
}

const SCALES: Record<string, number> = {
  mm: 1,
  cm: 10,
  pt: MM_PER_POINT,
  in: MM_PER_INCH,
  inch: MM_PER_INCH,
  '"': MM_PER_INCH,
  '”': MM_PER_INCH,
};

/** Millimetres of a typed length ("60", "6 cm", "2 1/2\"", "2.5 in"), null if it is none. */
export function readLength(text: string, unit: Unit): number | null {
  const sign = /^\s*[-−]/.test(text) ? -1 : 1;
  const match =
    /^\s*[-−]?\s*(?:(\d+(?:[.,]\d+)?)(?:\s+|$|(?=[a-z"”])))?(?:(\d+)\s*\/\s*(\d+)\s*)?(mm|cm|pt|in|inch|"|”)?\s*$/i.exec(
      text,
    );
  if (!match || (match[1] === undefined && match[2] === undefined)) return null;
  const whole = Number((match[1] ?? '0').replace(',', '.'));
  const part = match[2] === undefined ? 0 : Number(match[2]) / Number(match[3]);
  const value = (whole + part) * (SCALES[(match[4] ?? unit).toLowerCase()] ?? 1);
  return Number.isFinite(value) ? sign * value : null;
}
