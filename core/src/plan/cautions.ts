import type { Gadget } from '../model/gadget.ts';
import type { Hazard, Part } from '../model/part.ts';
import { convertUnit, UNITS } from '../units/index.ts';

export interface Caution {
  readonly id: Hazard;
  readonly title: string;
  readonly text: string;
  /** What of this gadget calls for it. */
  readonly because: readonly string[];
}

const CAUTIONS: Readonly<Record<Hazard, { title: string; text: string }>> = {
  mains: {
    title: 'Mains and higher voltages',
    text: 'Power the gadget from a certified low-voltage supply. Leave anything above extra-low voltage to a licensed electrician and follow your local code: use isolated sensors and never a breadboard.',
  },
  lithium: {
    title: 'Lithium cells',
    text: 'They can catch fire. Check polarity and cutoff voltages, charge in a fire-safe place, never leave them charging unattended, and never put glue on a pouch cell.',
  },
  gas: {
    title: 'Flammable or toxic gas',
    text: 'A home-made monitor is not a certified life-safety alarm. Ventilate, keep ignition sources away, and use certified detectors. Exposure limits are set by local law.',
  },
  body: { title: 'Body signals', text: 'This is not a medical device. For health questions, ask a doctor.' },
  hot: {
    title: 'Heat',
    text: 'Hot water, steam, kilns and load resistors cause burns. Secure pots and leads, keep children away, and let things cool before you touch them.',
  },
  impact: {
    title: 'Impacts',
    text: 'Wear eye protection and stand clear of anything that strikes, breaks or flies off.',
  },
  laser: {
    title: 'Lasers',
    text: 'Know the laser class, never look into the beam, and never mount a laser at face height.',
  },
  spinning: {
    title: 'Spinning parts',
    text: 'Guard them and stand clear. Fasten magnets so that they cannot fly off, and balance the rotor.',
  },
  speed: {
    title: 'Speed tests',
    text: 'Only on private ground or water, with a second person present, and within the law.',
  },
  solder: {
    title: 'Solder, resin and glue',
    text: 'The fumes are harmful: ventilate, wear gloves when you handle resin, and wash your hands.',
  },
  magnet: { title: 'Magnets', text: 'Keep them away from bank cards and pacemakers.' },
};

/** The title of a caution, by the key that is stored. */
export const cautionTitle = (id: string): string => CAUTIONS[id as keyof typeof CAUTIONS]?.title ?? id;

/** Cautions that the brief, the picked parts and their voltages call for, each with what calls for it. */
export function cautionsFor(
  gadget: Pick<Gadget, 'brief' | 'picks' | 'hookup'>,
  parts: readonly Part[],
): Caution[] {
  const because = new Map<Hazard, string[]>();
  const call = (id: Hazard, what: string) => because.set(id, [...(because.get(id) ?? []), what]);
  for (const ask of gadget.brief?.asks ?? []) {
    for (const { unit, high } of [ask, ...(ask.sensed ? [ask.sensed] : [])]) {
      const upTo = `${ask.quantity} up to ${high} ${UNITS[unit].symbol}`;
      if (UNITS[unit].dimension === 'temperature' && convertUnit(high, unit, 'degC') >= 60) call('hot', upTo);
      // Extra-low voltage ends at 50 V alternating (IEC 61140); peaks and direct voltages are judged by the same figure here.
      if (UNITS[unit].dimension === 'voltage' && convertUnit(high, unit, 'V') > 50) call('mains', upTo);
    }
    if (['ferment vapour', 'ammonia', 'solvent vapour'].includes(ask.measurand)) call('gas', ask.quantity);
    if (ask.measurand === 'rotation') call('spinning', ask.quantity);
    if (ask.measurand === 'speed over ground') call('speed', ask.quantity);
    if (ask.measurand === 'force' && ask.fastest.kind === 'pulse') call('impact', ask.quantity);
  }
  if (gadget.brief?.power === 'wall') call('mains', 'Wall power');
  const ids = new Set([
    ...gadget.picks.flatMap((k) => [k.partId, ...(k.converterId ? [k.converterId] : [])]),
    ...(gadget.hookup?.extras ?? []).filter((e) => e.quantity > 0).map((e) => e.partId),
  ]);
  for (const part of parts.filter((q) => ids.has(q.id)))
    for (const hazard of part.hazards) call(hazard, part.title);
  return (Object.keys(CAUTIONS) as Hazard[]).flatMap((id) =>
    because.has(id) ? [{ id, ...CAUTIONS[id], because: [...new Set(because.get(id))] }] : [],
  );
}
