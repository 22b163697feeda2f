import { useMemo } from 'react';
import type { Gadget, Part } from '@lucky-needle/core/model';
import { planOf, SHELF, shelfWith, type GadgetPlan } from '@lucky-needle/core/plan';
import { usePartsQuery } from '../api/shelfApi.ts';

/** The bench's shelf with the maker's own parts; the bench's alone until those have come. */
export function useShelf(): readonly Part[] {
  const { data } = usePartsQuery();
  return useMemo(() => (data ? shelfWith(data.map((o) => o.part)) : SHELF), [data]);
}

/** The gadget's picks looked up on the shelf; null without a brief, or until the gadget has come. */
export function usePlan(gadget: Gadget | undefined): GadgetPlan | null {
  const shelf = useShelf();
  return useMemo(() => (gadget ? planOf(gadget, shelf) : null), [gadget, shelf]);
}
