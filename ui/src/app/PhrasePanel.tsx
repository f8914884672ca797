import type { ComponentType } from 'react';

import { Choices } from './phrases/Choices';
import type { PanelProps } from './phrases/phrase';

const panels = import.meta.glob<ComponentType<PanelProps>>('./phrases/[a-z]*.tsx', {
  eager: true,
  import: 'default',
});

/** What opens under a phrase of the brief: the panel in the file of its name, or its choices alone. */
export function PhrasePanel(props: PanelProps) {
  const Panel = panels[`./phrases/${props.phrase}.tsx`] ?? Choices;
  return <Panel {...props} />;
}
