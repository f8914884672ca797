/** Who is practising at this screen: a name, so that each has a progress of their own. */
import { create } from 'zustand';

interface Learner {
  learner: string;
  setLearner: (name: string) => void;
}

const KEPT = 'vamper.learner';

/** Kept with this browser: at the next bench somebody else practises. */
export const useLearner = create<Learner>((set) => ({
  learner: localStorage.getItem(KEPT) ?? '',
  setLearner: (name) => {
    const learner = name.trim();
    localStorage.setItem(KEPT, learner);
    set({ learner });
  },
}));
