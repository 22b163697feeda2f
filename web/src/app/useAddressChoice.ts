import { useCallback, useState } from 'react';
import { useSearchParams } from 'react-router';

/**
 * What is chosen under a name in the address (?ch=), and a way to choose another. The choice counts from the
 * click on, not from when the router has moved: what is typed next must not go to what is being left.
 */
export function useAddressChoice(name: string): readonly [string | null, (to: string) => void] {
  const [search, setSearch] = useSearchParams();
  const there = search.get(name);
  const [clicked, setClicked] = useState<{ from: string | null; to: string } | null>(null);
  if (clicked?.to === there) setClicked(null);
  const choose = useCallback(
    (to: string) => {
      if (to === there) return;
      setClicked({ from: there, to });
      setSearch({ [name]: to }, { replace: true });
    },
    [name, there, setSearch],
  );
  return [clicked && clicked.from === there ? clicked.to : there, choose];
}
