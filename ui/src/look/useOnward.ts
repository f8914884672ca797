import { useEffect, useRef, useState } from 'react';

/** How many of a strip's children lie out of sight on either side, and a way to them; the chosen one comes into sight. */
export function useOnward(count: number, chosen: number) {
  const strip = useRef<HTMLDivElement>(null);
  const [hidden, setHidden] = useState({ before: 0, after: 0 });
  const look = () => {
    const box = strip.current?.getBoundingClientRect();
    if (!box) return;
    const middles = [...(strip.current?.children ?? [])].map((child) => {
      const { left, right } = child.getBoundingClientRect();
      return (left + right) / 2;
    });
    const before = middles.filter((middle) => middle < box.left).length;
    const after = middles.filter((middle) => middle > box.right).length;
    setHidden((was) => (was.before === before && was.after === after ? was : { before, after }));
  };
  useEffect(() => {
    const reveal = () => {
      const child = strip.current?.children[chosen];
      const box = strip.current?.getBoundingClientRect();
      if (!strip.current || !child || !box) return;
      const { left, right } = child.getBoundingClientRect();
      if (left < box.left || right > box.right)
        strip.current.scrollLeft += (left + right - box.left - box.right) / 2;
    };
    // What stands beside it comes and goes with how much is hidden, and makes the strip narrower.
    const watch = new ResizeObserver(() => {
      reveal();
      look();
    });
    if (strip.current) watch.observe(strip.current);
    return () => watch.disconnect();
  }, [chosen, count]);
  const go = (way: 1 | -1) => strip.current?.scrollBy({ left: way * 0.8 * strip.current.clientWidth });
  return { strip, look, go, ...hidden };
}
