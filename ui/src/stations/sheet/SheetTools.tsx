import { useState } from 'react';

import type { Plan, View } from '../../api/view';
import type { Changer } from '../../api/changes';
import { Button } from '../../kit/Button';
import { CompareWindow } from './CompareWindow';
import { FillWindow } from './FillWindow';
import { HowManyWindow } from './HowManyWindow';
import { ScaleWindow } from './ScaleWindow';

interface Props {
  view: View;
  plan: Plan;
  change: Changer;
}

type Tool = 'count' | 'compare' | 'fill' | 'scale';

const TOOLS: [Tool, string][] = [
  ['count', 'How many fit?'],
  ['fill', 'Fill what is left'],
  ['scale', 'Scale to fill'],
  ['compare', 'Compare layouts'],
];

/** What can be asked of the sheets beyond packing them. */
export function SheetTools({ view, plan, change }: Props) {
  const [open, setOpen] = useState<Tool | null>(null);
  const close = () => setOpen(null);
  const jobId = view.job.id;
  return (
    <div className="mt-1 flex flex-col gap-1.5 border-t border-rule pt-3">
      {TOOLS.map(([tool, words]) => (
        <Button key={tool} className="px-1.5" onClick={() => setOpen(tool)}>
          {words}
        </Button>
      ))}
      <HowManyWindow view={view} plan={plan} change={change} open={open === 'count'} close={close} />
      <FillWindow view={view} change={change} open={open === 'fill'} close={close} />
      <ScaleWindow jobId={jobId} plan={plan} open={open === 'scale'} close={close} />
      <CompareWindow jobId={jobId} plan={plan} open={open === 'compare'} close={close} />
    </div>
  );
}
