import { useState } from 'react';

import type { Design, Schemas } from '../api/client';

interface Props {
  item: Design;
  href: string;
  box: Schemas['Place'];
  clip?: string | undefined;
  opacity?: number;
  /** Inks are clear: what lies under the print shows through it. */
  through?: boolean;
}

/** A design's picture; while it is on its way, its outline stands for it, so that no piece is blank. */
export function Picture({ item, href, box, clip, opacity = 1, through = false }: Props) {
  const [shown, setShown] = useState('');
  return (
    <>
      {shown !== href && (
        <path
          d={item.outline_path}
          fillRule="evenodd"
          fill="var(--d-rule)"
          stroke="var(--d-ink)"
          strokeWidth="1"
          vectorEffect="non-scaling-stroke"
          opacity={opacity}
          data-testid="on-its-way"
        />
      )}
      <image
        href={href}
        x={box.x_mm}
        y={box.y_mm}
        width={box.width_mm}
        height={box.height_mm}
        preserveAspectRatio="none"
        onLoad={() => setShown(href)}
        opacity={opacity}
        {...(through ? { style: { mixBlendMode: 'multiply' as const } } : {})}
        {...(clip ? { clipPath: `url(#${clip})` } : {})}
      />
    </>
  );
}
