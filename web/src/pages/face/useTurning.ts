import { useEffect, useState } from 'react';

/** Which of so many pages is shown; they turn by themselves where that is wanted, but not while somebody arranges them. */
export function useTurning(pages: number, turnS: number | null, isHeld: boolean) {
  const [at, setAt] = useState(0);
  const page = Math.min(at, pages - 1);
  useEffect(() => {
    if (turnS === null || isHeld || pages < 2) return;
    const timer = setTimeout(() => setAt((page + 1) % pages), turnS * 1000);
    return () => clearTimeout(timer);
  }, [page, pages, turnS, isHeld]);
  return { page, show: setAt };
}
