/** One screen a station; the rail and the address name them. */
import { type ComponentType, lazy } from 'react';

import type { StationProps } from '../look/station';

import type { StationKey } from '../api/client';
import { ArtStation } from '../stations/art/ArtStation';
import { CutStation } from '../stations/cut/CutStation';
import { EdgeStation } from '../stations/edge/EdgeStation';
import { MarksStation } from '../stations/marks/MarksStation';
import { PrintStation } from '../stations/print/PrintStation';
import { SheetStation } from '../stations/sheet/SheetStation';

/** Seldom opened, so loaded when it is. */
const DryRunStation = lazy(() => import('../stations/dryrun/DryRunStation'));
const FinishStation = lazy(() => import('../stations/finish/FinishStation'));

export const STATIONS: Record<StationKey, ComponentType<StationProps>> = {
  art: ArtStation,
  edge: EdgeStation,
  sheet: SheetStation,
  marks: MarksStation,
  print: PrintStation,
  cut: CutStation,
  'dry-run': DryRunStation,
  finish: FinishStation,
};
