type State = 'settled' | 'look' | 'stop' | 'not-yet';

/** A station's state, told by shape as well as colour: full, half, notched, or a ring. */
export function Bead({ state, size = 14, label = state }: { state: State; size?: number; label?: string }) {
  const r = 6;
  return (
    <svg width={size} height={size} viewBox="-8 -8 16 16" role="img" aria-label={label}>
      {state === 'settled' && <circle r={r} className="fill-moss" />}
      {state === 'not-yet' && <circle r={r} className="fill-paper stroke-soft" strokeWidth="1.6" />}
      {state === 'look' && (
        <>
          <circle r={r} className="fill-paper stroke-bracken" strokeWidth="2" />
          <path d={`M0 ${-r} A${r} ${r} 0 0 0 0 ${r} Z`} className="fill-bracken" />
        </>
      )}
      {state === 'stop' && <path d="M0 0 L4 -6.4 A7.5 7.5 0 1 0 7.3 -2 Z" className="fill-rowan" />}
    </svg>
  );
}
