/** One screen a station; the rail and the address name them. Each is loaded when it is first needed. */
import { type ComponentType, lazy } from 'react';

import type { StationProps } from '../look/station';

import type { StationKey } from '../api/client';

type Screen = { default: ComponentType<StationProps> };

const SCREENS: Record<StationKey, () => Promise<Screen>> = {
  art: () => import('../stations/art/ArtStation'),
  edge: () => import('../stations/edge/EdgeStation'),
  sheet: () => import('../stations/sheet/SheetStation'),
  marks: () => import('../stations/marks/MarksStation'),
  print: () => import('../stations/print/PrintStation'),
  cut: () => import('../stations/cut/CutStation'),
  'dry-run': () => import('../stations/dryrun/DryRunStation'),
  finish: () => import('../stations/finish/FinishStation'),
};

/** Load a station before it is shown; one that cannot be had says so when it is. */
export const fetchStation = (station: StationKey) => void SCREENS[station]?.().catch(() => undefined);

/** Load all of them while nobody waits, so that the next one opens at once. */
export function fetchStations() {
  for (const station of Object.keys(SCREENS) as StationKey[]) fetchStation(station);
}

export const STATIONS = Object.fromEntries(
  Object.entries(SCREENS).map(([key, screen]) => [key, lazy(screen)]),
) as unknown as Record<StationKey, ComponentType<StationProps>>;
