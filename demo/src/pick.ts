import type { Pick } from '@lucky-needle/core/model';

/** What stands in a slot, and why. */
export const pick = (
  slot: string,
  partId: string,
  reason: string,
  converterId: string | null = null,
): Pick => ({ slot, partId, converterId, reason });
