/** The cutter: another one, or this one changed. */
import { Choices } from './Choices';
import { Machine } from './Machine';
import type { PanelProps } from './phrase';

export default function CutterPanel(props: PanelProps) {
  return (
    <>
      <Choices {...props} />
      <Machine {...props} kind="cutter" />
    </>
  );
}
