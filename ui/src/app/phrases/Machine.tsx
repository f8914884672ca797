import { useState } from 'react';

import { usePractise } from '../../api/twin';
import { Button } from '../../kit/Button';
import { MachineWindow } from '../../shop/MachineWindow';
import type { PanelProps } from './phrase';

/** Change the profile of the job's machine, or add another one. */
export function Machine({ view, change, kind }: PanelProps & { kind: 'printer' | 'cutter' }) {
  const [open, setOpen] = useState<'change' | 'add' | null>(null);
  const practise = usePractise(view.job.id);
  return (
    <div className="flex flex-wrap gap-2 border-t border-rule pt-3">
      <Button onClick={() => setOpen('change')}>Change this {kind}</Button>
      <Button onClick={() => setOpen('add')}>Add a {kind}</Button>
      {!view.plan?.practice && (
        <Button onClick={() => practise.mutate()}>Practise on simulated machines</Button>
      )}
      <MachineWindow
        kind={kind}
        view={view}
        change={change}
        asNew={open === 'add'}
        open={open !== null}
        close={() => setOpen(null)}
      />
    </div>
  );
}
