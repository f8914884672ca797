/** How each outcome is drawn: never by colour alone. */
import type { Outcome } from '../../api/cut';

export const PAINT: Record<Outcome, { fill: string; pattern: string }> = {
  'not-through': { fill: 'var(--soft)', pattern: 'url(#band-lines)' },
  clean: { fill: 'var(--moss)', pattern: 'none' },
  'backing-marked': { fill: 'var(--bracken)', pattern: 'url(#band-dots)' },
  'backing-through': { fill: 'var(--rowan)', pattern: 'url(#band-cross)' },
  torn: { fill: 'var(--rowan)', pattern: 'none' },
};
