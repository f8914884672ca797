interface Props {
  edge: string;
  drawing: string;
  /** A measure that is pointed at. */
  measure: string | null;
}

/** A piece on its cup or on the wall laid flat: its edge, its drawing, and one measure. */
export function PieceRings({ edge, drawing, measure }: Props) {
  return (
    <>
      <path
        d={edge}
        fill="#fff"
        fillRule="evenodd"
        stroke="var(--d-edge)"
        strokeWidth="1.3"
        vectorEffect="non-scaling-stroke"
      />
      <path d={drawing} fill="var(--d-edge)" fillOpacity="0.75" fillRule="evenodd" />
      {measure && (
        <path
          d={measure}
          fill="none"
          stroke="var(--d-look)"
          strokeWidth="2.4"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </>
  );
}
