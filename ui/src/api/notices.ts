/** Short sentences about what could not be done, or what can be taken back. */
import { create } from 'zustand';

import type { Kept } from './changeQueue';

export interface Notice {
  id: number;
  text: string;
  undo?: (() => void) | undefined;
}

interface Notices {
  notices: Notice[];
  /** Whether what was changed is in the workshop's file, on its way there, or waiting to be sent once more. */
  kept: Kept;
  keep: (kept: Kept) => void;
  tell: (text: string, undo?: () => void) => void;
  dismiss: (id: number) => void;
}

let last = 0;

export const useNotices = create<Notices>((set) => ({
  notices: [],
  kept: 'saved',
  keep: (kept) => set({ kept }),
  tell: (text, undo) =>
    set((state) => ({
      notices: [...state.notices.filter((notice) => notice.text !== text), { id: ++last, text, undo }].slice(
        -3,
      ),
    })),
  dismiss: (id) => set((state) => ({ notices: state.notices.filter((notice) => notice.id !== id) })),
}));
