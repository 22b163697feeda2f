import { useState } from 'react';
import type { Gadget, GadgetPatch, Problem } from '@lucky-needle/core/model';
import { usePatchGadgetMutation } from '../api/api.ts';
import { problemOf } from '../api/problemOf.ts';
import { useAppDispatch } from '../app/store.ts';
import { toastShown } from '../app/toasts.ts';

export interface SaveGadget {
  readonly problem: Problem | null;
  readonly saving: boolean;
  /** Saves sections on the version that is on screen; says so in a toast. Resolves to false when it was refused. */
  save(patch: GadgetPatch, done: string): Promise<boolean>;
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
    async save(patch, done) {
      const result = await patchGadget({ id: gadget.id, version: gadget.version, patch });
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
