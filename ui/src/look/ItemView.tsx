import { type ReactNode, useState } from 'react';

import { pictureUrl } from '../api/client';
import type { Design } from '../api/client';
import { type Ground, useLook } from './shown';
import { useScreenScale } from './screenScale';
import { Button } from '../kit/Button';
import { showLength, useUnit } from '../kit/units';
import { Picture } from './Picture';
import { Border, Places, Stipple } from './PieceShape';
import { useSize } from './useSize';
import { CardDialog } from './CardDialog';
import { MOST_ZOOM, useZoom } from './useZoom';

const GROUNDS: [Ground, string][] = [
  ['checked', 'checked'],
  ['light', 'light'],
  ['dark', 'dark'],
  ['stock', 'the stock'],
];
// A film that is clear is looked at over something pale and something dark, half of it each.
const LAID = 'linear-gradient(102deg, #f6f3ea 50%, #3c5b70 50%)';
const FILLS: Record<Ground, string> = {
  checked: '',
  light: '#ffffff',
  dark: '#2b2f38',
  stock: '',
  laid: LAID,
};

interface Props {
  item: Design;
  stock: string;
  /** White shows white on it; else the stock shows through the print. */
  white: boolean;
  /** What is done to a film that looks white on its backing, after which it is clear; else empty. */
  clearOnce: string;
  /** The border and the piece's edge, or the art alone. */
  withEdge: boolean;
  /** Called when a hole is clicked. */
  onHole?: ((hole: Design['holes'][number]) => void) | undefined;
  /** Drawn over the design, in its frame. */
  children?: ReactNode;
}

/** One design, large, on a ground that shows its gaps; its outline dashed, its edge solid. */
export function ItemView({ item, stock, white, clearOnce, withEdge, onHole, children }: Props) {
  const [ref, room] = useSize<HTMLDivElement>();
  const { ground: wanted, lay, finding } = useLook();
  const ground = wanted === 'laid' && !clearOnce ? 'stock' : wanted;
  const grounds: typeof GROUNDS = clearOnce ? [...GROUNDS, ['laid', `${clearOnce} and laid down`]] : GROUNDS;
  const unit = useUnit((state) => state.unit);
  const box = item.edge_box;
  const pad = 0.08 * Math.max(box.width_mm, box.height_mm) + 1;
  const [width, height] = [box.width_mm + 2 * pad, box.height_mm + 2 * pad];
  const fitted = Math.max(0.1, Math.min((room.width - 8) / width, (room.height - 8) / height));
  const zoom = useZoom(fitted, ref);
  const swatch = (key: Ground) => (key === 'stock' ? { background: stock } : { background: FILLS[key] });
  return (
    <div className="drawing absolute inset-0 flex flex-col gap-2 p-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <div className="flex gap-2" role="group" aria-label="Ground">
          {grounds.map(([key, name]) => (
            <button
              key={key}
              type="button"
              aria-pressed={ground === key}
              aria-label={`Ground: ${name}`}
              title={name}
              onClick={() => lay(key)}
              className={`h-7 w-7 rounded-[6px] border ${key === 'checked' ? 'checked-ground' : ''} ${
                ground === key ? 'border-kingfisher shadow-[0_0_0_2px_var(--kingfisher)]' : 'border-rule'
              }`}
              style={swatch(key)}
            />
          ))}
        </div>
        <ZoomBar zoom={zoom} />
      </div>
      {/* tabIndex: what is larger than its room is scrolled by keyboard too. */}
      <div
        ref={ref}
        tabIndex={0}
        aria-label="The design"
        role="group"
        className="flex min-h-0 flex-1 overflow-auto"
      >
        {room.width > 0 && (
          <svg
            width={width * zoom.scale}
            height={height * zoom.scale}
            viewBox={`${box.x_mm - pad} ${box.y_mm - pad} ${width} ${height}`}
            className={`m-auto shrink-0 ${ground === 'checked' ? 'checked-ground' : ''}`}
            style={ground === 'checked' ? undefined : swatch(ground)}
            role="img"
            aria-label={`${item.name}, ${showLength(item.size.width_mm, unit)} wide`}
            data-testid="item-view"
          >
            <Drawn
              item={item}
              through={!white && (ground === 'stock' || ground === 'laid')}
              under={ground === 'laid' ? 'none' : stock}
              withEdge={withEdge}
              px={zoom.scale * width > 1700 ? 3200 : 1600}
            />
            {onHole && <Holes item={item} onHole={onHole} />}
            {finding?.item_number === item.number && <Places finding={finding} item={item} />}
            {children}
          </svg>
        )}
      </div>
      {clearOnce && (ground === 'stock' || ground === 'laid') && (
        <p className="text-center text-sm text-soft">
          {ground === 'stock'
            ? `It looks white while it lies on its backing; ${clearOnce}, it is clear.`
            : `${clearOnce[0]?.toUpperCase()}${clearOnce.slice(1)}, it is clear: over something pale and over something dark.`}
        </p>
      )}
      <p className="figure text-center">
        {showLength(item.size.width_mm, unit)} × {showLength(item.size.height_mm, unit)}
        {withEdge &&
          `, with its border ${showLength(item.edge_size.width_mm, unit)} × ${showLength(item.edge_size.height_mm, unit)}`}
      </p>
    </div>
  );
}

function ZoomBar({ zoom }: { zoom: ReturnType<typeof useZoom> }) {
  const measured = useScreenScale((state) => state.measured);
  const [card, setCard] = useState(false);
  return (
    <div className="flex items-center gap-1.5" role="group" aria-label="Zoom">
      <Button
        aria-pressed={zoom.trueSize}
        look={zoom.trueSize ? 'act' : 'plain'}
        onClick={() => (measured ? zoom.showTrueSize() : setCard(true))}
      >
        True size
      </Button>
      {measured && (
        <Button look="bare" onClick={() => setCard(true)}>
          measure
        </Button>
      )}
      <Button onClick={zoom.farther} disabled={zoom.percent <= 100} aria-label="Farther">
        −
      </Button>
      <span className="figure w-12 text-center" role="status">
        {zoom.percent} %
      </span>
      <Button onClick={zoom.closer} disabled={zoom.percent >= MOST_ZOOM * 100} aria-label="Closer">
        +
      </Button>
      <Button onClick={zoom.fit}>Fit</Button>
      {card && (
        <CardDialog
          open
          close={() => {
            setCard(false);
            zoom.showTrueSize();
          }}
        />
      )}
    </div>
  );
}

function Drawn({
  item,
  under,
  through,
  withEdge,
  px,
}: {
  item: Design;
  /** What shows where nothing is printed. */
  under: string;
  through: boolean;
  withEdge: boolean;
  px: number;
}) {
  const clip = `large-${item.number}`;
  const line = (d: string, stroke: string, strokeWidth: number, more = {}) => (
    <path
      d={d}
      fill="none"
      stroke={stroke}
      strokeWidth={strokeWidth}
      vectorEffect="non-scaling-stroke"
      {...more}
    />
  );
  return (
    <>
      <Stipple />
      <clipPath id={clip}>
        <path d={item.edge_path} clipRule="evenodd" />
      </clipPath>
      {withEdge && <Border item={item} ground={under} />}
      {withEdge && item.bleed_path && (
        <path d={`${item.bleed_path} ${item.edge_path}`} fillRule="evenodd" fill="url(#stipple)" />
      )}
      <Picture
        item={item}
        href={pictureUrl(item, px)}
        box={item.picture_box}
        clip={withEdge ? clip : undefined}
        through={through}
      />
      {line(item.outline_path, '#ffffff', 2.5, { opacity: 0.7 })}
      {line(item.outline_path, '#22262e', 1, { strokeDasharray: '3 3' })}
      {withEdge && line(item.edge_path, '#fffdf8', 4)}
      {withEdge && line(item.edge_path, '#0f6e84', 2, { 'data-testid': 'edge' })}
    </>
  );
}

/** The drawing's holes, to be kept open or filled by clicking them; a list beside does the same by keyboard. */
function Holes({ item, onHole }: { item: Design; onHole: NonNullable<Props['onHole']> }) {
  return item.holes.map((hole, index) => (
    <path
      key={index}
      d={hole.path}
      className="cursor-pointer fill-transparent stroke-kingfisher hover:fill-kingfisher/25"
      strokeWidth="1.5"
      strokeDasharray="5 3"
      vectorEffect="non-scaling-stroke"
      aria-hidden
      onClick={() => onHole(hole)}
    />
  ));
}
