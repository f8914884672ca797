/** Times, counts and pictures as they are said on the practice table. */
import type { LookPicture } from '../api/practise';

export const minutesWords = (minutes: number) =>
  minutes < 1 ? 'half a minute' : `${Math.round(minutes)} min`;

export const sheetsWords = (sheets: number) => (sheets === 1 ? '1 sheet' : `${sheets} sheets`);

export const costWords = (minutes: number, sheets: number) =>
  sheets > 0 ? `${minutesWords(minutes)}, ${sheetsWords(sheets)}` : minutesWords(minutes);

export const PICTURE_WORDS: Record<LookPicture, string> = {
  sheet: 'The sheet',
  piece: 'One of its pieces, seen closely',
  mark: 'A mark, as the machine sees it',
  drop: 'A test drop through a lens',
  ruler: 'A ruler along the 100 mm bar',
};

/** A whole sheet is tall; what is seen closely is smaller, so that both stand beside each other. */
export const PICTURE_SIZES: Record<LookPicture, string> = {
  sheet: 'max-h-[27rem] min-h-40',
  piece: 'max-h-56 min-h-24',
  mark: 'max-h-48',
  drop: 'max-h-40',
  ruler: 'max-h-48',
};
