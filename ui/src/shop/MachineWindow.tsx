import { Window } from '../kit/Window';
import { CutterForm } from './CutterForm';
import type { MachineProps } from './MachineForm';
import { PrinterForm } from './PrinterForm';

interface Props extends MachineProps {
  kind: 'printer' | 'cutter';
  open: boolean;
}

/** The profile of the job's printer or cutter, to be changed; or a new one like it. */
export function MachineWindow({ kind, open, ...machine }: Props) {
  const title = machine.asNew ? `Add a ${kind}` : `Change this ${kind}`;
  return (
    <Window title={title} open={open} close={machine.close}>
      {kind === 'printer' ? <PrinterForm {...machine} /> : <CutterForm {...machine} />}
    </Window>
  );
}
