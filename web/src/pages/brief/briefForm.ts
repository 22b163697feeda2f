import { Type, type Static } from 'typebox';
import {
  Brief,
  Note,
  Place,
  Unit,
  oneOf,
  type Brief as BriefType,
  type Gadget,
} from '@lucky-needle/core/model';
import { strictObject } from '@lucky-needle/core/model';

/** The brief as a flat form; limits come from the stored schemas. */
export const BriefForm = strictObject({
  quantity: Brief.properties.quantity,
  unit: Unit,
  low: Brief.properties.low,
  high: Brief.properties.high,
  tolerance: Brief.properties.tolerance,
  fastestKind: oneOf(['ramp', 'pulse', 'tone'] as const),
  fastestValue: Type.Number({ exclusiveMinimum: 0 }),
  power: Brief.properties.power,
  surroundings: Brief.properties.surroundings,
  budget: Brief.properties.budget,
  note: Note,
  placeName: Place.properties.name,
  elevationM: Place.properties.elevationM,
  pressureHpa: Place.properties.pressureHpa,
});
export type BriefForm = Static<typeof BriefForm>;

export const FASTEST = {
  ramp: { title: 'A steady change', unit: 'a second', field: 'ratePerS' },
  pulse: { title: 'A single pulse', unit: 's wide', field: 'widthS' },
  tone: { title: 'A repeating wave', unit: 'Hz', field: 'frequencyHz' },
} as const;

export function toForm(gadget: Gadget): BriefForm {
  const brief = gadget.brief;
  const fastest = brief?.fastest ?? { kind: 'ramp' as const, ratePerS: 1 };
  return {
    quantity: brief?.quantity ?? 'Temperature',
    unit: brief?.unit ?? 'degC',
    low: brief?.low ?? 0,
    high: brief?.high ?? 100,
    tolerance: brief?.tolerance ?? 1,
    fastestKind: fastest.kind,
    fastestValue:
      fastest.kind === 'ramp'
        ? fastest.ratePerS
        : fastest.kind === 'pulse'
          ? fastest.widthS
          : fastest.frequencyHz,
    power: brief?.power ?? 'battery',
    surroundings: brief?.surroundings ?? [],
    budget: brief?.budget ?? null,
    note: brief?.note ?? '',
    placeName: gadget.place.name,
    elevationM: gadget.place.elevationM,
    pressureHpa: gadget.place.pressureHpa,
  };
}

export function fromForm(form: BriefForm): { brief: BriefType; place: Gadget['place'] } {
  const { placeName, elevationM, pressureHpa, fastestKind, fastestValue, ...rest } = form;
  const fastest: BriefType['fastest'] =
    fastestKind === 'ramp'
      ? { kind: 'ramp', ratePerS: fastestValue }
      : fastestKind === 'pulse'
        ? { kind: 'pulse', widthS: fastestValue }
        : { kind: 'tone', frequencyHz: fastestValue };
  return { brief: { ...rest, fastest }, place: { name: placeName, elevationM, pressureHpa } };
}
