/** What a panel of the brief is given. Each phrase that has more than a list of choices is a module of its own here. */
import type { Changer } from '../../api/changes';
import type { View } from '../../api/view';

export interface PanelProps {
  phrase: string;
  view: View;
  change: Changer;
  close: () => void;
}
