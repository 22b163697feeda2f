import type { Gadget, Hookup } from '@lucky-needle/core/model';
import type { GadgetPlan } from '@lucky-needle/core/plan';

/** What every tab of Hook-up works with. */
export interface HookupTabProps {
  readonly gadget: Gadget;
  readonly plan: GadgetPlan;
  readonly saving: boolean;
  /** Saves decisions about the wiring. */
  saveHookup(change: Partial<Hookup>, done: string): void;
}
