import { useState } from 'react';
import type { Gadget, GadgetPatch, Problem } from '@lucky-needle/core/model';
import { usePatchGadgetMutation } from '../api/gadgetApi.ts';
import { problemOf } from '../api/problemOf.ts';
import { useAppDispatch } from '../app/store.ts';
import { toastShown } from '../app/toasts.ts';

export interface SaveGadget {
  readonly problem: Problem | null;
  readonly saving: boolean;
  /**
   * Saves sections and says so in a toast. Resolves to false when it was refused.
   * @param version the version that was edited, when that is not the newest one known
   */
  save(patch: GadgetPatch, done: string, version?: number): Promise<boolean>;
  forget(): void;
}

export function useSaveGadget(gadget: Gadget): SaveGadget {
  const [patchGadget, { isLoading }] = usePatchGadgetMutation();
  const [problem, setProblem] = useState<Problem | null>(null);
  const dispatch = useAppDispatch();
  return {
    problem,
    saving: isLoading,
    forget: () => setProblem(null),
    async save(patch, done, version = gadget.version) {
      const result = await patchGadget({ id: gadget.id, version, patch });
      if (result.error) {
        setProblem(problemOf(result.error));
        return false;
      }
      setProblem(null);
      dispatch(toastShown({ text: done, tone: 'done' }));
      return true;
    },
  };
}
