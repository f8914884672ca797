import { lazy, Suspense, useState } from 'react';

import type { Item, View } from '../../api/view';
import { useComposition } from '../../api/compose';
import { Button } from '../../kit/Button';

const ComposeDialog = lazy(() => import('./ComposeDialog'));

/** Compose a new piece, or change how this one was composed. */
export function Composing({ view, item }: { view: View; item?: Item }) {
  const [open, setOpen] = useState<'new' | 'this' | null>(null);
  const made = useComposition(view.job.id, open === 'this' && item ? item.number : null);
  return (
    <div className="flex flex-wrap gap-2">
      <Button onClick={() => setOpen('new')}>Compose a piece …</Button>
      {item?.composed && <Button onClick={() => setOpen('this')}>Change this one …</Button>}
      <Suspense>
        {open === 'new' && <ComposeDialog view={view} editing={null} close={() => setOpen(null)} />}
        {open === 'this' && item && made.data && (
          <ComposeDialog view={view} editing={{ item, ...made.data }} close={() => setOpen(null)} />
        )}
      </Suspense>
    </div>
  );
}
