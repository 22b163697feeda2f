import type { Gadget } from '@lucky-needle/core/model';
import { GADGET_SLOTS } from '@lucky-needle/core/model';
import type { GadgetPlan } from '@lucky-needle/core/plan';
import { Glyph } from '../../parts/Glyph.tsx';

const TITLES = { board: 'Board', display: 'Display', supply: 'Supply', sounder: 'Sounder' } as const;

export interface Slot {
  readonly id: string;
  readonly title: string;
}

/** What there is to pick: a sensor for each ask that needs one, then board, display, supply and sounder. */
export function slotsOf(plan: GadgetPlan): Slot[] {
  return [
    ...plan.brief.asks
      .filter((a) => a.measurand !== 'worked out')
      .map((a) => ({ id: a.id, title: a.quantity })),
    ...GADGET_SLOTS.map((id) => ({ id, title: TITLES[id] })),
  ];
}

interface Props {
  readonly slots: readonly Slot[];
  readonly present: string;
  readonly gadget: Gadget;
  choose(slot: string): void;
}

export function SlotTabs({ slots, present, gadget, choose }: Props) {
  return (
    <div role="group" aria-label="Parts to pick" className="mb-3 flex flex-wrap gap-1">
      {slots.map((slot) => {
        const picked = gadget.picks.some((k) => k.slot === slot.id);
        return (
          <button
            key={slot.id}
            type="button"
            aria-pressed={slot.id === present}
            className={`btn btn-sm ${slot.id === present ? 'bg-base-content text-base-100' : ''}`}
            onClick={() => choose(slot.id)}
          >
            <Glyph state={picked ? 'done' : 'open'} label={picked ? 'picked' : 'not picked'} />
            {slot.title}
          </button>
        );
      })}
    </div>
  );
}
