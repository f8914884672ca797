/** Short sentences about what could not be done, or what can be taken back. */
import { create } from 'zustand';

export interface Notice {
  id: number;
  text: string;
  undo?: (() => void) | undefined;
}

interface Notices {
  notices: Notice[];
  /** Something that was typed has not been saved yet. */
  unsaved: boolean;
  hold: (unsaved: boolean) => void;
  tell: (text: string, undo?: () => void) => void;
  dismiss: (id: number) => void;
}

let last = 0;

export const useNotices = create<Notices>((set) => ({
  notices: [],
  unsaved: false,
  hold: (unsaved) => set({ unsaved }),
  tell: (text, undo) =>
    set((state) => ({
      notices: [...state.notices.filter((notice) => notice.text !== text), { id: ++last, text, undo }].slice(
        -3,
      ),
    })),
  dismiss: (id) => set((state) => ({ notices: state.notices.filter((notice) => notice.id !== id) })),
}));
