/** The mark: a sticker with its corner lifting. */
export function Logo() {
  return (
    <span className="inline-flex items-center gap-2 font-head text-xl font-bold">
      <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden>
        <path d="M3 3 H19 V12 L12 19 H3 Z" className="fill-kingfisher" />
        <path d="M19 12 L12 19 V12 Z" className="fill-bracken" />
      </svg>
      vamper
    </span>
  );
}
