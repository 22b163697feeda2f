import type { PinPlan } from './assignPins.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import { wiredParts, type WiredPart } from './pinNeeds.ts';
import { railVolts } from './rails.ts';
import { printNominal } from '../units/index.ts';
import { pinWord } from '../words/index.ts';

export interface Wire {
  readonly id: string;
  readonly kind: 'signal' | 'bus' | 'power' | 'ground';
  /** The part it starts at, and what the wire is there. */
  readonly partId: string;
  readonly partTitle: string;
  readonly at: string;
  /** Where it ends: "board", a part's id, or a rail. */
  readonly toId: string;
  readonly to: string;
  /** Set by hand rather than found. */
  readonly byHand: boolean;
}

const BUS_LINES = {
  I2C: [
    ['bus.i2c-data', 'data'],
    ['bus.i2c-clock', 'clock'],
  ],
  SPI: [
    ['bus.spi-clock', 'clock'],
    ['bus.spi-out', 'data in'],
    ['bus.spi-in', 'data out'],
  ],
  'one-wire': [['bus.one-wire', 'data']],
} as const;

/** Every wire of the gadget, part by part: signals, shared buses, supply and ground. */
export function wiringTable(plan: GadgetPlan, pins: PinPlan): Wire[] {
  const pinOf = new Map(pins.assigned.map((a) => [a.id, a]));
  return wiredParts(plan).flatMap((wired) => [
    ...signalWires(wired, pins, pinOf),
    ...busWires(wired, pinOf),
    ...powerWires(plan, wired),
  ]);
}

type PinOf = ReadonlyMap<string, PinPlan['assigned'][number]>;

function signalWires(wired: WiredPart, pins: PinPlan, pinOf: PinOf): Wire[] {
  const base = { partId: wired.id, partTitle: wired.title };
  const into: Wire[] =
    wired.into === null
      ? []
      : Array.from({ length: Math.max(1, wired.analogColumns) }, (_, k) => ({
          ...base,
          id: `${wired.id}.in${k + 1}`,
          kind: 'signal' as const,
          at: wired.analogColumns > 1 ? `output ${k + 1}` : 'output',
          toId: wired.into!,
          to: 'converter input',
          byHand: false,
        }));
  const own = pins.needs
    .filter((need) => need.id.startsWith(`${wired.id}.`))
    .map((need): Wire => {
      const pin = pinOf.get(need.id);
      return {
        ...base,
        id: need.id,
        kind: 'signal',
        at: `${{ analog: 'output', interrupt: 'edges', digital: 'control', serial: 'serial', pwm: 'tone' }[need.needs] ?? pinWord(need.needs)}${/, \d+$/.exec(need.title)?.[0].replace(',', '') ?? ''}`,
        toId: pin ? 'board' : '',
        to: pin?.pin ?? 'no pin assigned',
        byHand: pin?.byHand ?? false,
      };
    });
  return [...into, ...own];
}

function busWires(wired: WiredPart, pinOf: PinOf): Wire[] {
  const lines = BUS_LINES[wired.part.bus as keyof typeof BUS_LINES] ?? [];
  return lines.map(([needId, at]) => {
    const pin = pinOf.get(needId);
    return {
      id: `${wired.id}.${needId}`,
      kind: 'bus' as const,
      partId: wired.id,
      partTitle: wired.title,
      at,
      toId: pin ? 'board' : '',
      to: pin?.pin ?? 'no pin assigned',
      byHand: pin?.byHand ?? false,
    };
  });
}

function powerWires(plan: GadgetPlan, wired: WiredPart): Wire[] {
  if (!plan.board || !plan.supply || wired.part.supplyHighV === 0) return [];
  const volts = railVolts(wired.part, plan.board, plan.supply)!;
  const base = { partId: wired.id, partTitle: wired.title, byHand: false };
  return [
    {
      ...base,
      id: `${wired.id}.plus`,
      kind: 'power',
      at: 'power (+)',
      toId: `rail-${volts}`,
      to: `${printNominal(volts)} V`,
    },
    ...(wired.part.kind === 'sensor' && wired.part.signal === 'heated element' && plan.board.logicV !== volts
      ? [
          {
            ...base,
            id: `${wired.id}.measuring`,
            kind: 'power' as const,
            at: 'measuring circuit',
            toId: `rail-${plan.board.logicV}`,
            to: `${printNominal(plan.board.logicV)} V`,
          },
        ]
      : []),
    { ...base, id: `${wired.id}.ground`, kind: 'ground', at: 'ground', toId: 'ground', to: 'ground' },
  ];
}
