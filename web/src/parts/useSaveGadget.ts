import { useEffect, useRef, useState } from 'react';
import type { Gadget, GadgetPatch, Problem } from '@lucky-needle/core/model';
import { usePatchGadgetMutation } from '../api/gadgetApi.ts';
import { problemOf } from '../api/problemOf.ts';
import { useAppDispatch } from '../app/store.ts';
import { toastShown } from '../app/toasts.ts';
import { saveInTurn, type PatchOf } from './savesInTurn.ts';

export interface SaveGadget {
  readonly problem: Problem | null;
  readonly saving: boolean;
  /**
   * Saves sections, in turn with what else this page saves, and says so in a toast. Resolves to false when it was
   * refused; should its place be left by then, a toast says that too.
   * @param patch sections; or how they follow from the gadget, where one press may come before the last is answered
   * @param version the version that was edited, when that is not the newest one known
   */
  save(patch: PatchOf, done: string, version?: number): Promise<boolean>;
  forget(): void;
}

export function useSaveGadget(gadget: Gadget): SaveGadget {
  const [patchGadget] = usePatchGadgetMutation();
  const [problem, setProblem] = useState<Problem | null>(null);
  // From the press on: it may have to wait its turn.
  const [saving, setSaving] = useState(false);
  const isHere = useRef(true);
  useEffect(() => {
    isHere.current = true;
    return () => void (isHere.current = false);
  }, []);
  const dispatch = useAppDispatch();
  return {
    problem,
    saving,
    forget: () => setProblem(null),
    async save(patch, done, edited) {
      const send = async (sections: GadgetPatch, version: number) => {
        const result = await patchGadget({ id: gadget.id, version: edited ?? version, patch: sections });
        if (result.data) {
          setProblem(null);
          dispatch(toastShown({ text: done, tone: 'done' }));
          return result.data;
        }
        const refused = problemOf(result.error)!;
        setProblem(refused);
        if (!isHere.current)
          dispatch(
            toastShown({ text: `Not saved. ${refused.detail} ${refused.wayOut}`.trim(), tone: 'trouble' }),
          );
        return null;
      };
      setSaving(true);
      try {
        return (await saveInTurn(gadget, patch, send)) !== null;
      } finally {
        setSaving(false);
      }
    },
  };
}
