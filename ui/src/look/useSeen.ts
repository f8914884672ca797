import { type RefObject, useEffect, useState } from 'react';

/** Whether something has come into sight; what is dear to work out is asked for only then. */
export function useSeen(of: RefObject<Element | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (seen || !of.current) return;
    const watch = new IntersectionObserver((entries) => {
      if (entries.some((entry) => entry.isIntersecting)) setSeen(true);
    });
    watch.observe(of.current);
    return () => watch.disconnect();
  }, [of, seen]);
  return seen;
}
