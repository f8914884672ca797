import { type ComponentType, lazy, Suspense } from 'react';

import type { PanelProps } from './phrases/phrase';

type Panel = { default: ComponentType<PanelProps> };

const files = import.meta.glob<Panel>('./phrases/[a-z]*.tsx');
const choices = lazy(() =>
  import('./phrases/Choices').then(({ Choices }) => ({ default: Choices as ComponentType<PanelProps> })),
);
const panels: Record<string, ComponentType<PanelProps>> = Object.fromEntries(
  Object.entries(files).map(([path, file]) => [path, lazy(file)]),
);

/** What opens under a phrase of the brief: the panel in the file of its name, or its choices alone. */
export function PhrasePanel(props: PanelProps) {
  const Shown = panels[`./phrases/${props.phrase}.tsx`] ?? choices;
  return (
    <Suspense fallback={<p className="text-soft">Opening …</p>}>
      <Shown {...props} />
    </Suspense>
  );
}
