import type { Brief, Gadget, Hookup, Part } from '../../src/model/index.ts';
import { PLAIN_HOOKUP, planOf, SHELF, TEMPLATES, type GadgetPlan } from '../../src/plan/index.ts';

/** A gadget from a template, with picks as slot: part, or slot: [part, converter]. */
export function gadgetFrom(
  template: string,
  picks: Readonly<Record<string, string | readonly [string, string]>> = {},
  brief: Partial<Brief> = {},
  hookup: Partial<Hookup> = {},
): Gadget {
  const made = TEMPLATES.find((t) => t.id === template)!.make();
  return {
    id: 'g',
    template,
    version: 1,
    createdAt: '2026-01-01T00:00:00.000Z',
    updatedAt: '2026-01-01T00:00:00.000Z',
    name: 'Test gadget',
    ...made,
    brief: made.brief && { ...made.brief, ...brief },
    picks: Object.entries(picks).map(([slot, part]) => ({
      slot,
      partId: typeof part === 'string' ? part : part[0],
      converterId: typeof part === 'string' ? null : part[1],
      reason: '',
    })),
    hookup: { ...PLAIN_HOOKUP, ...hookup },
  };
}

export const planFrom = (
  template: string,
  picks: Parameters<typeof gadgetFrom>[1] = {},
  brief: Partial<Brief> = {},
  hookup: Partial<Hookup> = {},
  parts: readonly Part[] = SHELF,
): GadgetPlan => planOf(gadgetFrom(template, picks, brief, hookup), parts)!;

/** The part of the shelf with an id, with some of its fields changed. */
export function partLike<K extends Part['kind']>(
  kind: K,
  id: string,
  change: Partial<Extract<Part, { kind: K }>> = {},
): Extract<Part, { kind: K }> {
  const part = SHELF.find((q): q is Extract<Part, { kind: K }> => q.kind === kind && q.id === id)!;
  return { ...part, ...change };
}
