import type { Schemas } from '../../api/client';

const WIDTH = 280;
const STOCK_PX = 78;

/** The stock in section with the blade's depth in it, and the window of force in which the cut is clean. */
export function DepthPicture({
  setting,
  stock,
}: {
  setting: Schemas['SettingOut'];
  stock: Schemas['StockOut'];
}) {
  const total = stock.face_um + stock.backing_um;
  const scale = STOCK_PX / total;
  const top = 22;
  const face = stock.face_um * scale;
  const foot = top + STOCK_PX;
  const text = { fontSize: 12, fill: 'var(--ink)' };
  const half = setting.blade === '45' ? 1 : 0.58;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${foot + 18}`}
      className="mt-2 w-full"
      role="img"
      aria-label={`The blade goes ${Math.round(setting.reached_um)} µm deep into ${Math.round(total)} µm of stock`}
    >
      <rect x="0" y={top} width={WIDTH} height={face} fill={stock.colour} stroke="var(--soft)" />
      {stock.backing_um > 0 && (
        <rect
          x="0"
          y={top + face}
          width={WIDTH}
          height={STOCK_PX - face}
          fill="#d9c9a6"
          stroke="var(--soft)"
        />
      )}
      <rect x="0" y={foot} width={WIDTH} height="14" fill="#9fb4ad" stroke="var(--soft)" />
      <text {...text} fill="#22262e" x="6" y={top + face / 2 + 4}>
        face {Math.round(stock.face_um)} µm
      </text>
      {stock.backing_um > 0 && (
        <text {...text} fill="#22262e" x="6" y={top + face + (STOCK_PX - face) / 2 + 4}>
          backing {Math.round(stock.backing_um)} µm
        </text>
      )}
      <text {...text} fill="#22262e" fontSize="11" x="6" y={foot + 11}>
        mat
      </text>
      {setting.depth_per_pass_um.map((depth, index) => {
        const cx = 132 + index * 24;
        const tip = top + Math.min(depth * scale, STOCK_PX + 12);
        return (
          <path
            key={index}
            d={`M${cx} ${tip} L${cx + half * (tip - 4)} 4 L${cx} 4 Z`}
            fill="#5b616e"
            opacity={index === setting.depth_per_pass_um.length - 1 ? 0.95 : 0.35}
          />
        );
      })}
      <line
        x1="100"
        x2={WIDTH}
        y1={top + setting.target_um * scale}
        y2={top + setting.target_um * scale}
        stroke="#0f6e84"
        strokeWidth="1.5"
        strokeDasharray="4 3"
      />
      <text
        {...text}
        fill="#0b5365"
        x={WIDTH - 6}
        textAnchor="end"
        y={Math.min(top + setting.target_um * scale + 13, foot - 3)}
      >
        aim {Math.round(setting.target_um)} µm
      </text>
    </svg>
  );
}
