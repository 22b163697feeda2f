import { Type, type Static } from 'typebox';
import {
  Ask,
  Brief,
  GadgetPatch,
  Place,
  nullable,
  oneOf,
  strictObject,
  type FastestEvent,
  type Ask as AskType,
  type Gadget,
} from '@lucky-needle/core/model';
import { askedOfFigures, channelsForAsks, channelsOf } from '@lucky-needle/core/plan';

/** One ask as flat fields; limits come from the stored schemas. */
const AskForm = strictObject({
  id: Ask.properties.id,
  quantity: Ask.properties.quantity,
  unit: Ask.properties.unit,
  low: Ask.properties.low,
  high: Ask.properties.high,
  tolerance: Ask.properties.tolerance,
  fastestKind: oneOf(['ramp', 'pulse', 'tone', 'crossing', 'edges'] as const),
  fastestValue: Type.Number({ exclusiveMinimum: 0 }),
  measurand: Ask.properties.measurand,
  /** 0 for what a figure of another channel answers. */
  channels: Type.Integer({ minimum: 0, maximum: 16 }),
  isSensed: Type.Boolean(),
  sensedUnit: Ask.properties.unit,
  sensedLow: Type.Number(),
  sensedHigh: Type.Number(),
  sensedTolerance: Type.Number({ exclusiveMinimum: 0 }),
});
export type AskForm = Static<typeof AskForm>;

/** The brief as a form. */
export const BriefForm = strictObject({
  asks: Type.Array(AskForm, { minItems: 1, maxItems: 8 }),
  power: Brief.properties.power,
  enduranceH: Brief.properties.enduranceH,
  surroundings: Brief.properties.surroundings,
  budget: Brief.properties.budget,
  readyMade: Brief.properties.readyMade,
  note: Brief.properties.note,
  placeName: Place.properties.name,
  elevationM: Place.properties.elevationM,
  pressureHpa: nullable(Type.Number({ minimum: 300, maximum: 1100 })),
  sampleRateHz: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
});
export type BriefForm = Static<typeof BriefForm>;

export const FASTEST = {
  ramp: { title: 'Steady change', value: 'Rate', unit: 'per second' },
  pulse: { title: 'Single pulse', value: 'Pulse width', unit: 's' },
  tone: { title: 'Repeating wave', value: 'Frequency', unit: 'Hz' },
  crossing: { title: 'Time between two crossings', value: 'Standard uncertainty of the time', unit: 's' },
  edges: { title: 'Passing marks (rotation)', value: 'Marks per turn', unit: '' },
} as const;

export const newAsk = (id: string): AskForm => ({
  id,
  quantity: 'Temperature',
  unit: 'degC',
  low: 0,
  high: 100,
  tolerance: 1,
  fastestKind: 'ramp',
  fastestValue: 0.1,
  measurand: 'temperature',
  channels: 1,
  isSensed: false,
  sensedUnit: 'degC',
  sensedLow: 0,
  sensedHigh: 100,
  sensedTolerance: 1,
});

export function toForm(gadget: Gadget): BriefForm {
  const { brief, place } = gadget;
  return {
    asks: brief
      ? brief.asks.map((ask) => ({
          id: ask.id,
          quantity: ask.quantity,
          unit: ask.unit,
          low: ask.low,
          high: ask.high,
          tolerance: ask.tolerance,
          fastestKind: ask.fastest.kind,
          fastestValue: valueOf(ask.fastest),
          measurand: ask.measurand,
          // What a figure of another channel answers has none of its own.
          channels: Math.max(
            askedOfFigures(gadget.channels).has(ask.id) ? 0 : 1,
            channelsOf(gadget, ask).length,
          ),
          isSensed: ask.sensed !== null,
          sensedUnit: ask.sensed?.unit ?? ask.unit,
          sensedLow: ask.sensed?.low ?? ask.low,
          sensedHigh: ask.sensed?.high ?? ask.high,
          sensedTolerance: ask.sensed?.tolerance ?? ask.tolerance,
        }))
      : [{ ...newAsk(gadget.channels[0]!.askId), channels: gadget.channels.length }],
    power: brief?.power ?? 'battery',
    enduranceH: brief?.enduranceH ?? null,
    surroundings: brief?.surroundings ?? [],
    budget: brief?.budget ?? null,
    readyMade: brief?.readyMade ?? null,
    note: brief?.note ?? '',
    placeName: place.name,
    elevationM: place.elevationM,
    pressureHpa: place.pressureHpa,
    sampleRateHz: gadget.sampleRateHz,
  };
}

/** The sections of the gadget that the form stands for; channels follow the asks. */
export function fromForm(
  form: BriefForm,
  gadget: Gadget,
): Required<Pick<GadgetPatch, 'place' | 'channels' | 'sampleRateHz' | 'picks'>> & { brief: Brief } {
  const { asks, placeName, elevationM, pressureHpa, sampleRateHz, ...shared } = form;
  const stored = asks.map(askFrom);
  const answered = askedOfFigures(gadget.channels);
  return {
    brief: { ...shared, asks: stored },
    place: { name: placeName, elevationM, pressureHpa },
    channels: channelsForAsks(
      stored,
      Object.fromEntries(asks.map((a) => [a.id, answered.has(a.id) ? a.channels : Math.max(1, a.channels)])),
      gadget.channels,
    ),
    // A pick for an ask that has left the brief goes with it.
    picks: gadget.picks.filter(
      (k) => !gadget.brief?.asks.some((a) => a.id === k.slot) || stored.some((a) => a.id === k.slot),
    ),
    sampleRateHz,
  };
}

function askFrom(form: AskForm): AskType {
  const { fastestKind, fastestValue, channels: _channels, isSensed, ...rest } = form;
  const { sensedUnit, sensedLow, sensedHigh, sensedTolerance, ...shown } = rest;
  return {
    ...shown,
    fastest: eventOf(fastestKind, fastestValue),
    sensed: isSensed
      ? { unit: sensedUnit, low: sensedLow, high: sensedHigh, tolerance: sensedTolerance }
      : null,
  };
}

function valueOf(event: FastestEvent): number {
  switch (event.kind) {
    case 'ramp':
      return event.ratePerS;
    case 'pulse':
      return event.widthS;
    case 'tone':
      return event.frequencyHz;
    case 'crossing':
      return event.timingS;
    case 'edges':
      return event.marks;
  }
}

function eventOf(kind: FastestEvent['kind'], value: number): FastestEvent {
  switch (kind) {
    case 'ramp':
      return { kind, ratePerS: value };
    case 'pulse':
      return { kind, widthS: value };
    case 'tone':
      return { kind, frequencyHz: value };
    case 'crossing':
      return { kind, timingS: value };
    case 'edges':
      return { kind, marks: Math.max(1, Math.round(value)) };
  }
}

/** Numbers of a half-typed form that are all there: only then can it be judged. */
export function isComplete(form: BriefForm): boolean {
  const numbers = [
    form.elevationM,
    form.sampleRateHz,
    ...form.asks.flatMap((a) => [
      a.low,
      a.high,
      a.tolerance,
      a.fastestValue,
      a.channels,
      ...(a.isSensed ? [a.sensedLow, a.sensedHigh, a.sensedTolerance] : []),
    ]),
  ];
  return (
    numbers.every((v) => Number.isFinite(v)) &&
    form.sampleRateHz > 0 &&
    form.asks.every((a) => a.tolerance > 0 && a.fastestValue > 0 && (!a.isSensed || a.sensedTolerance > 0))
  );
}
