import { describe, expect, it } from 'vitest';
import { compileLine } from '../src/line/index.ts';
import { beyondEnds } from '../src/line/beyondEnds.ts';
import type { Channel, Gadget } from '../src/model/index.ts';
import {
  namedState,
  proposedAlarms,
  proposedStates,
  readoutSpec,
  shownFigure,
  stateInWords,
  stateOfReading,
  statesFault,
  TEMPLATES,
} from '../src/plan/index.ts';
import { createWatchedReadout } from '../src/reading/index.ts';
import { createWorld, FAMILIES } from '../src/simulate/index.ts';
import { REASON } from '../src/stage/contract.ts';
import { familyGadget } from './support/familyGadget.ts';

/** The words that a gadget's needles say after so many seconds of each condition, by a world of its own. */
function wordsAfter(family: number, seed: number, steps: readonly (readonly [string, number])[]) {
  const { draw, sampleRateHz } = FAMILIES.find((f) => f.family === family)!;
  const gadget = familyGadget(family);
  const world = createWorld(draw(seed));
  const readout = createWatchedReadout({
    ...readoutSpec(gadget, [], [], sampleRateHz),
    columns: world.columns,
  });
  const newest = gadget.channels.map(() => ({ value: Number.NaN, reason: REASON.waiting as number }));
  let t = 0;
  return steps.map(([condition, seconds]) => {
    world.setCondition(condition);
    const n = Math.round(seconds * sampleRateHz);
    const times = Float64Array.from({ length: n }, () => (t += 1 / sampleRateHz));
    const rows = Array.from(times, () => world.step(1 / sampleRateHz));
    const columns = world.columns.map((_, k) => Float64Array.from(rows, (r) => r[k]!));
    readout.feed(
      { length: n, times, columns },
      (k, stages) => {
        const { length, lanes } = stages.at(-1)!;
        const at = length - 1;
        if (at >= 0) newest[k] = { value: lanes[0]!.values[at]!, reason: lanes[0]!.reasons[at]! };
      },
      () => undefined,
    );
    return gadget.channels.flatMap((channel, k) => {
      const figure = shownFigure(channel);
      const now = figure && readout.figures(k).find((f) => f.id === figure.id);
      const { value, reason } = newest[k]!;
      const word = now
        ? now.unit && namedState(channel.states, now.value, now.unit)
        : stateOfReading(channel.states, readout.readout.lines[k]!.line!, value, reason);
      return word ? [word] : [];
    });
  });
}

const SEEDS = [1, 2, 3, 4, 5, 6, 7, 8];

describe('words in the place of numbers', () => {
  it.each(SEEDS)('cell bench, world %i: empty slot and reversed are told apart, and from a cell', (seed) => {
    expect(
      wordsAfter(9, seed, [
        ['empty', 10],
        ['reversed', 10],
        ['rest', 20],
        ['discharge', 60],
        ['empty', 10],
        ['charge', 20],
      ]),
    ).toEqual([['empty slot'], ['reversed'], [], [], ['empty slot'], []]);
  });

  it.each(SEEDS)('spindle, clock, shaker and generator, worlds %i: what stands still says so', (seed) => {
    const still = [['stopped'], [], ['stopped']];
    expect(
      wordsAfter(10, seed, [
        ['stopped', 60],
        ['running', 60],
        ['stopped', 200],
      ]),
    ).toEqual(still);
    expect(
      wordsAfter(5, seed, [
        ['stopped', 60],
        ['running', 60],
        ['stopped', 60],
      ]),
    ).toEqual(still);
    expect(
      wordsAfter(3, seed, [
        ['z-up', 20],
        ['shaking', 30],
        ['z-up', 20],
      ]),
    ).toEqual(still);
    expect(
      wordsAfter(4, seed, [
        ['stopped', 5],
        ['lamp', 5],
        ['stopped', 5],
      ]),
    ).toEqual(still);
  });

  it('of every template can be said, in units of their needles', () => {
    for (const { family, id } of TEMPLATES) {
      if (family === null) continue;
      const gadget = familyGadget(family);
      for (const channel of gadget.channels) {
        expect([id, channel.name, statesFault(gadget, channel)]).toEqual([id, channel.name, null]);
        // What is proposed is what the templates say.
        for (const state of proposedStates(gadget, channel)) expect(channel.states).toContainEqual(state);
      }
    }
  });

  const of = (states: Channel['states']) => ({ ...familyGadget(9).channels[0]!, states });
  const volts = { name: 'full', unit: 'V', from: 4.1, to: null } as const;

  it('name ends with what they name, in any unit of the quantity, the first before the next', () => {
    const states = [volts, { name: 'high', unit: 'mV', from: 3900, to: 4200 } as const];
    expect([3.89, 3.9, 4.05, 4.1, 1e6].map((v) => namedState(states, v, 'V'))).toEqual([
      null,
      'high',
      'high',
      'full',
      'full',
    ]);
    expect(namedState(states, 4.5, 'A')).toBeNull();
    expect(namedState(states, Number.NaN, 'V')).toBeNull();
    expect(namedState(undefined, 4.5, 'V')).toBeNull();
  });

  it('take in what a converter cut off only where the maker says so: a shorted sensor is not hot', () => {
    const said = (cutOff: boolean) => [{ ...volts, cutOff }];
    const line = compileLine(familyGadget(9).channels[0]!.line, { sampleRateHz: 1 });
    const told = (cutOff: boolean, value: number, reason: number) =>
      stateOfReading(said(cutOff), line, value, reason);
    expect([false, true].map((c) => told(c, 4.2, REASON.ok))).toEqual(['full', 'full']);
    expect([false, true].map((c) => told(c, Number.NaN, REASON.saturatedHigh))).toEqual([null, 'full']);
    expect([false, true].map((c) => told(c, Number.NaN, REASON.missing))).toEqual([null, null]);
    // Its sensor is still watched for faults.
    const kiln = familyGadget(14);
    const hot = { name: 'hot', unit: 'degC', from: 90, to: null } as const;
    const named = (cutOff: boolean) => ({
      ...kiln,
      channels: kiln.channels.map((c) => ({ ...c, states: [{ ...hot, cutOff }] })),
    });
    const faults = (gadget: Gadget) => proposedAlarms(gadget).filter((r) => r.kind === 'fault').length;
    expect(faults(named(false))).toBe(faults(kiln));
    expect(faults(kiln)).toBeGreaterThan(0);
    expect(faults(named(true))).toBe(0);
  });

  it('are refused where they stand for everything, for nothing, or for another quantity', () => {
    const gadget = familyGadget(9);
    expect(statesFault(gadget, of([{ ...volts, from: null }]))).toMatch(/every reading/);
    expect(statesFault(gadget, of([{ ...volts, to: 3 }]))).toMatch(/from 4.1 to 3 V/);
    expect(statesFault(gadget, of([{ ...volts, unit: 'A' }]))).toMatch(/is in A, but the reading is in V/);
    expect(statesFault(gadget, of([volts]))).toBeNull();
    const reversed = { ...volts, name: 'reversed', from: null, to: -0.1 };
    expect(stateInWords(reversed)).toBe('“reversed” at most −0.1 V');
    expect(stateInWords({ ...reversed, cutOff: true })).toBe(
      '“reversed” at most −0.1 V, or ADC at the end of its range',
    );
  });

  it('know which way a line goes: a thermistor at the top of its converter is cold', () => {
    const falling = familyGadget(9).channels[0]!.line;
    const scale = falling.stages[1]!;
    const turned = {
      ...falling,
      stages: [falling.stages[0]!, { ...scale, params: { ...scale.params, slope: -2 } }],
    };
    const lines = [falling, turned].map((l) => compileLine(l, { sampleRateHz: 1 }));
    expect(lines.map((l) => beyondEnds(l, REASON.saturatedLow))).toEqual([-Infinity, Infinity]);
    expect(lines.map((l) => beyondEnds(l, REASON.saturatedHigh))).toEqual([Infinity, -Infinity]);
    expect(lines.map((l) => beyondEnds(l, REASON.missing))).toEqual([NaN, NaN]);
  });
});
