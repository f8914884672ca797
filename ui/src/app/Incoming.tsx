import { type ReactNode, useEffect, useEffectEvent, useState } from 'react';

import { filesIn } from './dropped';

interface Props {
  take: (files: File[]) => void;
  words: string;
  className?: string;
  children: ReactNode;
}

/** A page that takes pictures: dropped anywhere on it, or pasted. */
export function Incoming({ take, words, className = '', children }: Props) {
  const [over, setOver] = useState(false);
  const paste = useEffectEvent((event: ClipboardEvent) => {
    const files = [...(event.clipboardData?.files ?? [])];
    if (files.length === 0) return;
    event.preventDefault();
    take(files);
  });
  useEffect(() => {
    document.addEventListener('paste', paste);
    return () => document.removeEventListener('paste', paste);
  }, []);
  return (
    <div
      className={`relative ${className}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(event.dataTransfer.types.includes('Files'));
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void filesIn(event.dataTransfer).then((files) => files.length > 0 && take(files));
      }}
    >
      {children}
      {over && (
        <div className="pointer-events-none absolute inset-3 z-20 flex items-center justify-center rounded-[6px] border-2 border-dashed border-kingfisher bg-paper/90 font-head text-xl font-bold">
          {words}
        </div>
      )}
    </div>
  );
}
