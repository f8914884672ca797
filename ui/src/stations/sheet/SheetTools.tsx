import type { Plan, View } from '../../api/client';
import type { Changer } from '../../api/hooks';

interface Props {
  view: View;
  plan: Plan;
  change: Changer;
}

export function SheetTools(_props: Props) {
  return null;
}

export function PackingFolds(_props: Props) {
  return null;
}
