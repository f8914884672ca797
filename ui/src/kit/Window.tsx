import { lazy, type ReactNode, Suspense } from 'react';

const DialogWindow = lazy(() => import('./DialogWindow'));

export interface WindowProps {
  title: string;
  open: boolean;
  close: () => void;
  wide?: boolean;
  /** A line beside the title. */
  about?: string;
  /** What is decided in it: with these its way out is “Leave it”. */
  foot?: ReactNode;
  /** What is in it has a height of its own to fill, and scrolls by itself. */
  fill?: boolean;
  children: ReactNode;
}

/** Something that needs room of its own for a while; Escape or its button leads back. Loaded when first opened. */
export function Window(props: WindowProps) {
  if (!props.open) return null;
  return (
    <Suspense>
      <DialogWindow {...props} />
    </Suspense>
  );
}
