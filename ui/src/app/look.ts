/** What the person is looking at: the chosen design, sheet and finding. Kept apart from what is saved. */
import { create } from 'zustand';

import type { Finding } from '../api/client';

export type Ground = 'checked' | 'light' | 'dark' | 'stock';

interface Look {
  item: number | null;
  sheet: number;
  finding: Finding | null;
  ground: Ground;
  showItem: (item: number | null) => void;
  showSheet: (sheet: number) => void;
  point: (finding: Finding | null) => void;
  lay: (ground: Ground) => void;
}

export const useLook = create<Look>((set) => ({
  item: null,
  sheet: 0,
  finding: null,
  ground: 'checked',
  showItem: (item) => set({ item }),
  showSheet: (sheet) => set({ sheet }),
  point: (finding) => set({ finding }),
  lay: (ground) => set({ ground }),
}));
