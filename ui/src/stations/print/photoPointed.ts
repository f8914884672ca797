/** Which piece of the list is under the pointer, to be shown in the picture. */
import { create } from 'zustand';

interface Pointed {
  at: number | null;
  point: (at: number | null) => void;
}

export const usePhotoPointed = create<Pointed>((set) => ({ at: null, point: (at) => set({ at }) }));
