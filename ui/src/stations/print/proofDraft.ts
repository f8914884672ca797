/** What was ticked on a proof; a reload loses none of it. A piece is there, missing, or not looked at yet. */
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

type Seen = 'there' | 'missing';

interface Drafts {
  /** By job, layout and sheet; then by the piece's place. */
  bySheet: Record<string, Record<number, Seen>>;
  mark: (sheet: string, piece: number, seen: Seen | null) => void;
}

export const useProofDraft = create<Drafts>()(
  persist(
    (set) => ({
      bySheet: {},
      mark: (sheet, piece, seen) =>
        set(({ bySheet }) => {
          const before = Object.entries(bySheet[sheet] ?? {}).filter(([place]) => Number(place) !== piece);
          const now = seen === null ? before : [...before, [String(piece), seen] as const];
          // Only the newest few sheets are worth keeping.
          const others = Object.entries(bySheet)
            .filter(([key]) => key !== sheet)
            .slice(-20);
          return { bySheet: { ...Object.fromEntries(others), [sheet]: Object.fromEntries(now) } };
        }),
    }),
    { name: 'vamper-proof' },
  ),
);
