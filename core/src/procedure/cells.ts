/** Volts of one cell by chemistry: when full, where discharge must stop, and where it is surely dead. Usual values of the kind. */
export const CHEMISTRIES = {
  lithium: { title: 'Lithium-ion', full: 4.2, cutOff: 3.0, dead: 2.0, lithium: true },
  'lithium-iron': { title: 'Lithium iron phosphate', full: 3.65, cutOff: 2.5, dead: 1.8, lithium: true },
  nimh: { title: 'Nickel-metal hydride', full: 1.45, cutOff: 1.0, dead: 0.6, lithium: false },
  'lead-acid': { title: 'Lead-acid cell', full: 2.4, cutOff: 1.75, dead: 1.2, lithium: false },
  alkaline: { title: 'Alkaline (not rechargeable)', full: 1.6, cutOff: 0.9, dead: 0.5, lithium: false },
} as const;
export type Chemistry = keyof typeof CHEMISTRIES;

/** Less than this either way is no cell, V. */
export const EMPTY_V = 0.1;

export type SlotState = 'empty' | 'reversed' | 'dead' | 'wrong chemistry' | 'ready';

/** What sits in the slot, from its open-circuit volts before anything is connected. */
export function slotState(volts: number, chemistry: Chemistry): SlotState {
  const { full, dead } = CHEMISTRIES[chemistry];
  if (volts < -EMPTY_V) return 'reversed';
  if (volts < EMPTY_V) return 'empty';
  if (volts < dead) return 'dead';
  if (volts > full * 1.05) return 'wrong chemistry';
  return 'ready';
}
