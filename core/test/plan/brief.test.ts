import { describe, expect, it } from 'vitest';
import type { Ask, Channel, ChannelBrief } from '../../src/model/index.ts';
import {
  briefFaults,
  briefFor,
  briefInWords,
  briefOfAsk,
  cautionsFor,
  channelsForAsks,
  contradictionsOf,
  demandsOf,
  gadgetDemands,
  linesForPicks,
  planOf,
  sensedBrief,
  SHELF,
  TEMPLATES,
  toleranceIn,
} from '../../src/plan/index.ts';
import { compileLine, filterTotals } from '../../src/line/index.ts';
import { gadgetFrom, planFrom } from '../support/plans.ts';

const kiln = gadgetFrom('several-temperatures');
const temperature = briefOfAsk(kiln.brief!, kiln.brief!.asks[0]!);

describe('templates', () => {
  it('stand one for each of the fourteen families, and one that is empty', () => {
    const families = TEMPLATES.flatMap((t) => (t.family === null ? [] : [t.family]));
    expect(families.toSorted((a, b) => a - b)).toEqual(Array.from({ length: 14 }, (_, i) => i + 1));
    expect(TEMPLATES.filter((t) => t.family === null).map((t) => t.id)).toEqual(['empty']);
  });

  it.each(TEMPLATES.filter((t) => t.family !== null).map((t) => [t.id, t] as const))(
    '%s: a brief without fault, lines that run, and a reason for what each ask starts with',
    (id, template) => {
      const gadget = gadgetFrom(id);
      const { asks } = gadget.brief!;
      expect(asks.flatMap((ask) => briefFaults(briefOfAsk(gadget.brief!, ask)))).toEqual([]);
      for (const channel of gadget.channels) {
        expect(asks.some((a) => a.id === channel.askId)).toBe(true);
        if (channel.line.stages.length > 0)
          expect(
            compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz }).outputs.length,
          ).toBeGreaterThan(0);
      }
      const fields = asks.flatMap((a) => ['range', 'tolerance', 'fastest'].map((f) => `${a.id}.${f}`));
      const told = Object.keys(template.reasons).filter((k) => fields.includes(k));
      expect(told.length).toBeGreaterThanOrEqual(3);
      // A reason that names no field of the brief would never be seen.
      for (const key of Object.keys(template.reasons)) {
        const [first, second] = key.split('.');
        if (second) expect(asks.map((a) => a.id)).toContain(first);
        else expect(Object.keys(gadget.brief!)).toContain(first);
      }
    },
  );

  it('contradict themselves nowhere while nothing is picked', () => {
    for (const t of TEMPLATES) {
      const plan = planOf(gadgetFrom(t.id), SHELF);
      if (plan && t.family !== null) expect([t.id, contradictionsOf(plan)]).toEqual([t.id, []]);
    }
  });
});

describe('lines of templates', () => {
  /** Seconds by which a reading is behind what it is made of: filters, and half of the cycles that one is worked out over. */
  const lagOf = (id: string, channelId: string): number => {
    const gadget = gadgetFrom(id);
    const { line } = gadget.channels.find((c) => c.id === channelId)!;
    const compiled = compileLine(line, { sampleRateHz: gadget.sampleRateHz });
    const SLOWEST_CYCLE_HZ = 35;
    const cycles = line.stages.find((s) => s.kind === 'ac-power')?.params['cycles'] ?? 0;
    return filterTotals(compiled).delayS + Number(cycles) / 2 / SLOWEST_CYCLE_HZ;
  };

  it('are quick enough for what their own brief calls its fastest change', () => {
    for (const t of TEMPLATES.filter((q) => q.family !== null)) {
      const gadget = gadgetFrom(t.id);
      for (const channel of gadget.channels) {
        const brief = briefFor(gadget, channel)!;
        const allowed =
          brief.fastest.kind === 'ramp' ? demandsOf(brief).find((d) => d.id === 'latency')!.value : Infinity;
        expect([t.id, channel.id, lagOf(t.id, channel.id) <= allowed]).toEqual([t.id, channel.id, true]);
      }
    }
  });
});

describe('briefFaults', () => {
  it.each<[Partial<ChannelBrief>, string, RegExp]>([
    [{ low: 110, high: 0 }, 'high', /0 is not above 110 °C/],
    [{ low: 5, high: 5 }, 'high', /must be above/],
    [{ tolerance: 55 }, 'tolerance', /covers the whole range of 110/],
    [{ low: -300 }, 'low', /Below absolute zero. Enter at least -273.15/],
  ])('names the contradiction in %j', (change, field, message) => {
    const [fault] = briefFaults({ ...temperature, ...change });
    expect(fault).toMatchObject({ field, message: expect.stringMatching(message) });
  });
});

describe('what a channel is judged by', () => {
  const counter = gadgetFrom('motion-counter');
  const ask = counter.brief!.asks[0]!;

  it('is the shown range, or the sensed one where the line ends in what the sensor feels', () => {
    expect(ask.sensed).not.toBeNull();
    expect(sensedBrief(counter.brief!, ask)).toMatchObject({
      unit: ask.sensed!.unit,
      high: ask.sensed!.high,
    });
    const felt = {
      ...counter.channels[0]!,
      line: { sources: [{ column: 'x', unit: 'gn' as const }], stages: [] },
    };
    expect(briefFor(counter, felt)!.unit).toBe(ask.sensed!.unit);
    const shown = { ...felt, line: { sources: [{ column: 'x', unit: ask.unit }], stages: [] } };
    expect(briefFor(counter, shown)!.unit).toBe(ask.unit);
  });

  it('is nothing for a channel whose ask has gone, and nothing without a brief', () => {
    const [channel] = kiln.channels;
    expect(briefFor(kiln, { ...channel!, askId: 'gone' })).toBeNull();
    expect(briefFor({ ...kiln, brief: null }, channel!)).toBeNull();
  });

  it('carries the tolerance into another unit of the quantity only', () => {
    expect(toleranceIn(temperature, 'degF')).toBeCloseTo(1.8, 12);
    expect(toleranceIn(temperature, 'hPa')).toBeNull();
    expect(toleranceIn(null, 'degC')).toBeNull();
  });

  it('is put in a few words', () => {
    expect(briefInWords(kiln.brief!)).toBe('Temperature 0…110 °C, ±1, and 3 more');
    expect(briefInWords(gadgetFrom('gas-watch').brief!)).toMatch(/, and 5 more$/);
  });
});

describe('demands', () => {
  it('counts inputs, what may be drawn, and where water boils', () => {
    const demands = gadgetDemands({
      ...gadgetFrom('several-temperatures', {}, { power: 'battery', enduranceH: 100 }),
      place: { name: 'x', elevationM: 640, pressureHpa: null },
    });
    expect(demands.find((d) => d.id === 'inputs')).toMatchObject({ value: 4, unit: 'channels' });
    // 2 Ah of AA cells over 100 h.
    expect(demands.find((d) => d.id === 'endurance')!.value).toBeCloseTo(0.02, 12);
    expect(demands.find((d) => d.id === 'boiling')!.value).toBeCloseTo(97.85, 1);
    expect(gadgetDemands(gadgetFrom('heading')).some((d) => d.id === 'boiling')).toBe(false);
  });

  it('asks no reference for what is worked out, and speaks of what is sensed', () => {
    const power = gadgetFrom('ac-power');
    const worked = power.brief!.asks.find((a) => a.measurand === 'worked out')!;
    expect(demandsOf(briefOfAsk(power.brief!, worked)).map((d) => d.id)).not.toContain('reference');
    const counter = gadgetFrom('motion-counter').brief!;
    const resolution = demandsOf(briefOfAsk(counter, counter.asks[0]!)).find((d) => d.id === 'resolution')!;
    expect(resolution.value).toBeCloseTo(counter.asks[0]!.sensed!.tolerance / 5, 12);
  });

  it('follow the brief: half the tolerance asks twice the rate of a ramp and half the step', () => {
    const of = (tolerance: number, id: string) =>
      demandsOf({ ...temperature, tolerance }).find((d) => d.id === id)!.value;
    expect(of(0.5, 'rate') / of(1, 'rate')).toBeCloseTo(2, 9);
    expect(of(0.5, 'resolution') / of(1, 'resolution')).toBeCloseTo(0.5, 9);
  });
});

describe('contradictions', () => {
  it('name a pick that is too slow for the event, and the way out', () => {
    const plan = planFrom('impact-peak', { blow: ['load-cell-200kg', 'bridge-slow-24'] });
    expect(contradictionsOf(plan)[0]).toMatchObject({
      where: 'pick',
      sentence: expect.stringMatching(/^A 12 ms pulse is too short for \d+ readings per second/),
      wayOut: expect.stringMatching(/faster converter/),
    });
  });

  it('name a gadget that reads too seldom, and a battery that is empty too soon', () => {
    const slow = planOf(
      { ...gadgetFrom('several-temperatures', { temperature: 'ntc-bead-10k' }), sampleRateHz: 1 },
      SHELF,
    )!;
    expect(contradictionsOf(slow).map((c) => c.sentence)).toEqual([
      'The gadget sends 1 readings per second; temperature needs 1.5.',
    ]);
    const thirsty = planFrom(
      'gas-watch',
      { ferment: 'heated-ferment', board: 'radio-32-bit', supply: 'alkaline-4aa' },
      { power: 'battery', enduranceH: 48 },
    );
    expect(contradictionsOf(thirsty).find((c) => c.where === 'hook-up')!.sentence).toMatch(
      /^With these picks, Four alkaline AA cells lasts .* requires (48 h|2 days)\.$/,
    );
  });

  it('say when nothing on the shelf can do it, and what stops the nearest', () => {
    const kilnPlan = planFrom('several-temperatures');
    const [ask] = kilnPlan.brief.asks;
    const far = planOf(
      { ...kilnPlan.gadget, brief: { ...kilnPlan.brief, asks: [{ ...ask!, high: 900 }] } },
      SHELF,
    )!;
    expect(contradictionsOf(far)[0]).toMatchObject({
      where: 'brief',
      sentence: expect.stringMatching(
        /^No part on the shelf can measure temperature from 0 to 900 °C.*range/,
      ),
    });
  });
});

describe('channelsForAsks', () => {
  const [first] = kiln.brief!.asks;
  const other: Ask = { ...first!, id: 'a2', quantity: 'Humidity', measurand: 'humidity', unit: 'percent' };

  it('keeps the channels that are there with their lines, and adds or drops at the end', () => {
    const more = channelsForAsks([first!, other], { [first!.id]: 5, a2: 2 }, kiln.channels);
    expect(more.slice(0, 4)).toEqual(kiln.channels);
    expect(more.slice(4).map((c) => c.name)).toEqual(['Temperature 5', 'Humidity 1', 'Humidity 2']);
    expect(new Set(more.map((c) => c.id)).size).toBe(7);
    expect(channelsForAsks([first!], { [first!.id]: 2 }, kiln.channels)).toEqual(kiln.channels.slice(0, 2));
    expect(channelsForAsks([other], {}, kiln.channels).map((c) => c.askId)).toEqual(['a2']);
  });

  const again = (id: string, of: string): Channel => ({
    ...kiln.channels[0]!,
    id,
    name: `${of}, again`,
    line: { sources: [{ column: of, unit: 'degC' }], stages: [] },
    feed: { channelId: of, stageId: null },
  });

  it('takes what goes on from a channel of the same ask for no sensor more, and keeps it with that', () => {
    const gadget = { ...kiln, channels: [...kiln.channels, again('p1b', 'p1'), again('p4b', 'p4')] };
    const [before, after] = [kiln, gadget].map((g) => planOf(g, SHELF)!.sensing.map((s) => s.pieces));
    expect(after).toEqual(before);
    expect(gadgetDemands(gadget)).toEqual(gadgetDemands(kiln));
    const fewer = channelsForAsks([first!], { [first!.id]: 2 }, gadget.channels);
    expect(fewer.map((c) => c.id)).toEqual(['p1', 'p2', 'p1b']);
    // Its sensor's line stands before it already.
    expect(linesForPicks(planOf(gadget, SHELF)!).slice(-2)).toEqual(gadget.channels.slice(-2));
  });
});

describe('cautions', () => {
  const ids = (gadget: Parameters<typeof cautionsFor>[0]) => cautionsFor(gadget, SHELF).map((c) => c.id);

  it('warn of burns where it gets hot, in any unit, and of mains on wall power', () => {
    expect(ids(gadgetFrom('several-temperatures'))).toEqual(['mains', 'hot']);
    const [ask] = kiln.brief!.asks;
    const cool = { ...ask!, unit: 'degF' as const, low: 40, high: 120 };
    expect(ids(gadgetFrom('several-temperatures', {}, { asks: [cool], power: 'battery' }))).toEqual([]);
    expect(ids({ ...kiln, brief: null })).toEqual([]);
  });

  it.each<[string, Record<string, string>, string]>([
    ['gas-watch', {}, 'gas'],
    ['beat-rate', { beat: 'pulse-module' }, 'body'],
    ['impact-peak', {}, 'impact'],
    ['rotation', {}, 'spinning'],
    ['sprint', {}, 'speed'],
    ['crossing-timer', { race: 'light-flight' }, 'laser'],
    ['sprint', { supply: 'lithium-cell' }, 'lithium'],
  ])('%s with %j: %s', (template, picks, id) => {
    const found = cautionsFor(gadgetFrom(template, picks), SHELF).find((c) => c.id === id)!;
    expect(found.because.length).toBeGreaterThan(0);
    expect(found.text.length).toBeGreaterThan(20);
  });

  it('send what is above extra-low voltage to a licensed electrician', () => {
    const [volts] = gadgetFrom('ac-power').brief!.asks;
    const at = (high: number) =>
      cautionsFor(gadgetFrom('ac-power', {}, { power: 'battery', asks: [{ ...volts!, high }] }), SHELF).find(
        (c) => c.id === 'mains',
      );
    expect(at(30)).toBeUndefined();
    expect(at(230)!.text).toMatch(/licensed electrician and follow your local code/);
  });
});
