/** What every station is given. */
import type { Changer } from '../api/changes';
import type { View } from '../api/view';

export interface StationProps {
  view: View;
  change: Changer;
  add: () => void;
}
