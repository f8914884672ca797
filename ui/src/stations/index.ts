/** One screen a station; the rail and the address name them. */
import type { ComponentType } from 'react';

import type { StationKey, View } from '../api/client';
import type { Changer } from '../api/hooks';
import { ArtStation } from './ArtStation';
import { CutStation } from './CutStation';
import { EdgeStation } from './EdgeStation';
import { MarksStation } from './MarksStation';
import { PrintStation } from './PrintStation';
import { SheetStation } from './SheetStation';

export interface StationProps {
  view: View;
  change: Changer;
  add: () => void;
}

export const STATIONS: Record<StationKey, ComponentType<StationProps>> = {
  art: ArtStation,
  edge: EdgeStation,
  sheet: SheetStation,
  marks: MarksStation,
  print: PrintStation,
  cut: CutStation,
};
