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
    text: 'Feed the gadget from a certified low-voltage supply. Anything above extra-low voltage is for a licensed electrician and the local code: isolated sensors, never on a breadboard.',
  },
  lithium: {
    title: 'Lithium cells',
    text: 'They can burn. Mind the polarity and the cut-offs, charge in a fire-safe place and never unattended, put no glue on a pouch.',
  },
  gas: {
    title: 'Flammable or toxic gas',
    text: 'A home-made watch is no certified life-safety alarm. Ventilate, bring no ignition, use listed detectors; exposure limits are local law.',
  },
  body: { title: 'Body signals', text: 'This is not a medical device. Ask a doctor, not the needle.' },
  hot: {
    title: 'Heat',
    text: 'Hot water, steam, kilns and load resistors burn. Fix the pot and the leads, keep children away, let things cool before touching.',
  },
  impact: {
    title: 'Impacts',
    text: 'Wear eye protection and stand clear of whatever strikes, breaks or flies off.',
  },
  laser: {
    title: 'Lasers',
    text: 'Know the class, never look into it, never mount it at the height of faces.',
  },
  spinning: {
    title: 'Spinning parts',
    text: 'Guard them and stand clear. Fix magnets so that they cannot fly off, and mind the balance.',
  },
  speed: {
    title: 'Speed tests',
    text: 'Only on private ground or water, with a second person, and within the law.',
  },
  solder: {
    title: 'Solder, resin and glue',
    text: 'Their fumes harm: ventilate, wear gloves with resin, wash your hands.',
  },
  magnet: { title: 'Magnets', text: 'Keep them away from bank cards and from pacemakers.' },
};

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
