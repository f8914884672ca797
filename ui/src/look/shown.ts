/** What the person is looking at: the chosen design, sheet and finding. Kept apart from what is saved. */
import { create } from 'zustand';

import type { Finding } from '../api/client';

export type Ground = 'checked' | 'light' | 'dark' | 'stock' | 'laid';

interface Look {
  item: number | null;
  sheet: number;
  finding: Finding | null;
  ground: Ground;
  /** Designs picked beside the one in sight; what is set is set for all of them. */
  picked: readonly number[];
  /** Pieces in hand, by their place on the sheet in sight. */
  picks: readonly number[];
  /** Which of the limits of the live area are drawn. */
  bound: string | null;
  showItem: (item: number | null) => void;
  showSheet: (sheet: number) => void;
  point: (finding: Finding | null) => void;
  lay: (ground: Ground) => void;
  pick: (item: number) => void;
  pickOnly: (items: readonly number[]) => void;
  takeUp: (pieces: readonly number[]) => void;
  dropPicks: () => void;
  draw: (bound: string | null) => void;
}

export const useLook = create<Look>((set) => ({
  item: null,
  sheet: 0,
  finding: null,
  ground: 'checked',
  picked: [],
  picks: [],
  bound: null,
  showItem: (item) => set({ item }),
  showSheet: (sheet) => set({ sheet, picks: [] }),
  point: (finding) => set({ finding }),
  lay: (ground) => set({ ground }),
  pick: (item) =>
    set((state) => ({
      picked: state.picked.includes(item)
        ? state.picked.filter((one) => one !== item)
        : [...state.picked, item],
    })),
  pickOnly: (picked) => set({ picked }),
  takeUp: (picks) => set({ picks }),
  dropPicks: () => set((state) => (state.picks.length ? { picks: [] } : state)),
  draw: (bound) => set({ bound }),
}));
