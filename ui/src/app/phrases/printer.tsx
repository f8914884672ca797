/** The printer: another one, or this one changed. */
import { Choices } from './Choices';
import { Machine } from './Machine';
import type { PanelProps } from './phrase';

export default function PrinterPanel(props: PanelProps) {
  return (
    <>
      <Choices {...props} />
      <Machine {...props} kind="printer" />
    </>
  );
}
