import { artUrl, type Item } from '../api/client';
import { type Ground, useLook } from '../app/look';
import { showLength, useUnit } from '../kit/units';
import { Places } from '../sheet-view/PieceShape';
import { useSize } from '../sheet-view/useSize';

const GROUNDS: [Ground, string][] = [
  ['checked', 'checked'],
  ['light', 'light'],
  ['dark', 'dark'],
  ['stock', 'the stock'],
];
const FILLS: Record<Ground, string> = { checked: '', light: '#ffffff', dark: '#2b2f38', stock: '' };

interface Props {
  item: Item;
  stock: string;
  /** The border and the piece's edge, or the art alone. */
  withEdge: boolean;
}

/** One design, large, on a ground that shows its gaps; its outline dashed, its edge solid. */
export function ItemView({ item, stock, withEdge }: Props) {
  const [ref, room] = useSize<HTMLDivElement>();
  const { ground, lay, finding } = useLook();
  const unit = useUnit((state) => state.unit);
  const box = item.edge_box;
  const pad = 0.08 * Math.max(box.width_mm, box.height_mm) + 1;
  const [width, height] = [box.width_mm + 2 * pad, box.height_mm + 2 * pad];
  const scale = Math.max(0.1, Math.min((room.width - 24) / width, (room.height - 92) / height));
  const picture = item.picture_box;
  const clip = `large-${item.number}`;
  const swatch = (key: Ground) => (key === 'stock' ? { background: stock } : { background: FILLS[key] });
  return (
    <div ref={ref} className="drawing absolute inset-0 flex flex-col items-center overflow-hidden p-3">
      <div className="flex gap-2 self-start" role="group" aria-label="Ground">
        {GROUNDS.map(([key, name]) => (
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
      <div className="my-auto flex flex-col items-center gap-2">
        {room.width > 0 && (
          <svg
            width={width * scale}
            height={height * scale}
            viewBox={`${box.x_mm - pad} ${box.y_mm - pad} ${width} ${height}`}
            className={ground === 'checked' ? 'checked-ground' : ''}
            style={ground === 'checked' ? undefined : swatch(ground)}
            role="img"
            aria-label={`${item.name}, ${showLength(item.size.width_mm, unit)} wide`}
            data-testid="item-view"
          >
            <clipPath id={clip}>
              <path d={item.edge_path} clipRule="evenodd" />
            </clipPath>
            {withEdge && <path d={item.edge_path} fillRule="evenodd" fill={item.colour ?? stock} />}
            <image
              href={artUrl(item.art, 1600)}
              x={picture.x_mm}
              y={picture.y_mm}
              width={picture.width_mm}
              height={picture.height_mm}
              preserveAspectRatio="none"
              {...(withEdge ? { clipPath: `url(#${clip})` } : {})}
            />
            <path
              d={item.outline_path}
              fill="none"
              stroke="#ffffff"
              strokeWidth="2.5"
              vectorEffect="non-scaling-stroke"
              opacity="0.7"
            />
            <path
              d={item.outline_path}
              fill="none"
              stroke="#22262e"
              strokeWidth="1"
              strokeDasharray="3 3"
              vectorEffect="non-scaling-stroke"
            />
            {withEdge && (
              <>
                <path
                  d={item.edge_path}
                  fill="none"
                  stroke="#fffdf8"
                  strokeWidth="4"
                  vectorEffect="non-scaling-stroke"
                />
                <path
                  d={item.edge_path}
                  fill="none"
                  stroke="#0f6e84"
                  strokeWidth="2"
                  vectorEffect="non-scaling-stroke"
                />
              </>
            )}
            {finding?.item_number === item.number && <Places finding={finding} item={item} />}
          </svg>
        )}
        <p className="figure">
          {showLength(item.size.width_mm, unit)} × {showLength(item.size.height_mm, unit)}
          {withEdge &&
            `, with its border ${showLength(item.edge_size.width_mm, unit)} × ${showLength(item.edge_size.height_mm, unit)}`}
        </p>
      </div>
    </div>
  );
}
