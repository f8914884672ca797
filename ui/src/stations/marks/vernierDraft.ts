/** What was read off a vernier sheet so far; a reload loses none of it. */
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

import type { Schemas } from '../../api/client';

interface Drafts {
  byJob: Record<number, Record<number, Schemas['ScaleReading']>>;
  read: (job: number, reading: Schemas['ScaleReading']) => void;
  forget: (job: number) => void;
}

export const useVernierDraft = create<Drafts>()(
  persist(
    (set) => ({
      byJob: {},
      read: (job, reading) =>
        set(({ byJob }) => ({ byJob: { ...byJob, [job]: { ...byJob[job], [reading.scale]: reading } } })),
      forget: (job) =>
        set(({ byJob }) => ({
          byJob: Object.fromEntries(Object.entries(byJob).filter(([key]) => Number(key) !== job)),
        })),
    }),
    { name: 'vamper-vernier' },
  ),
);
