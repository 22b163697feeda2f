import { boardReader } from '@lucky-needle/core/formats';
import type { Gadget, NewStudy, StudyBody, StudySource } from '@lucky-needle/core/model';
import { readoutSpec, SHELF } from '@lucky-needle/core/plan';
import { createWatchedReadout } from '@lucky-needle/core/reading';
import { boardLine, createWorld, type World, type WorldTruth } from '@lucky-needle/core/simulate';
import { convertDifference, convertUnit } from '@lucky-needle/core/units';

/** A study as the mill's people would have gathered it. */
export interface MillStudy {
  readonly of: NewStudy;
  readonly told: Pick<StudyBody, 'by' | 'place' | 'settings'>;
  readonly rows: readonly Readonly<Record<string, number | string>>[];
  readonly from: StudySource['kind'] & ('typed' | 'live');
}

/** What a gadget shows while its simulated world goes on: every number comes through the line of the gadget itself. */
function shownBy(gadget: Gadget, world: World, channel: number) {
  const rate = gadget.sampleRateHz;
  const spec = readoutSpec(gadget, [], SHELF, rate);
  const readout = createWatchedReadout(spec);
  const read = boardReader(world.columns);
  let rows = 0;
  let newest = Number.NaN;
  return {
    /** Lets the parts warm up at rest, as they would lie there. */
    warmUp(): void {
      this.run((spec.channels[channel]!.warmUpS ?? 0) + 5);
    },
    run(seconds: number, each: (sinceS: number) => void = () => undefined): void {
      for (let i = 0; i < seconds * rate; i++) {
        const line = read(boardLine(++rows / rate, world.step(1 / rate)));
        if (line.kind !== 'reading') throw new Error('The simulated board printed an unreadable line.');
        const columns = spec.columns.map((name) =>
          Float64Array.of(line.values[world.columns.indexOf(name)]!),
        );
        readout.feed(
          { length: 1, times: Float64Array.of(line.timeS), columns },
          (at, stages) => {
            const { length, lanes } = stages.at(-1)!;
            if (at === channel && length > 0) newest = lanes[0]!.values[length - 1]!;
          },
          () => undefined,
        );
        each((i + 1) / rate);
      }
    },
    reading: () => newest,
    figure: (id: string) => readout.figures(channel).find((f) => f.id === id)?.value ?? Number.NaN,
  };
}

const rounded = (value: number, decimals: number) => Number(value.toFixed(decimals));

/** The punt beside a second receiver, and sprints with the old pole and the new one. */
export function sprintStudies(
  gadget: Gadget,
  truth: WorldTruth,
  draw: (seed: number) => WorldTruth,
): MillStudy[] {
  const unit = 'kmh';
  const world = createWorld(truth);
  const beside = shownBy(gadget, world, 0);
  world.setCondition('still');
  beside.warmUp();
  world.setCondition('sprint');
  const pairs: Record<string, number>[] = [];
  let u = 0;
  beside.run(26, (sinceS) => {
    if (sinceS < 3 || !Number.isInteger(sinceS)) return;
    const [receiver] = world.instruments();
    u = convertDifference(receiver!.uncertainty, receiver!.unit, unit);
    pairs.push({
      reference: rounded(convertUnit(receiver!.value, receiver!.unit, unit), 2),
      shown: rounded(beside.reading(), 2),
    });
  });
  const sprints = [1, 0.82].flatMap((slower, k) =>
    Array.from({ length: 7 }, (_, i) => {
      const drawn = draw(700 + 10 * k + i);
      if (drawn.kind !== 'punt-sprint') throw new Error('Sprint studies need the simulated punt.');
      const one = createWorld({ ...drawn, buildUpS: slower * drawn.buildUpS });
      const run = shownBy(gadget, one, 0);
      one.setCondition('still');
      run.warmUp();
      one.setCondition('sprint');
      run.run(30);
      return { side: k === 0 ? 'before' : 'after', shown: rounded(run.figure('quick'), 2) };
    }),
  );
  return [
    {
      of: { kind: 'agreement', channelId: 'punt', figureId: null },
      told: { by: 'Ferryman', place: 'Jetty to the far bank', settings: { otherU: u } },
      rows: pairs,
      from: 'live',
    },
    {
      of: { kind: 'before-after', channelId: 'punt', figureId: 'quick' },
      told: { by: 'Ferryman', place: 'Jetty to the far bank', settings: { hopedFor: 1 } },
      rows: sprints.filter((s) => Number.isFinite(s.shown)),
      from: 'live',
    },
  ];
}

/** Four walks to the sieve, each counted by hand, and a negative test. */
export function sieveStudies(gadget: Gadget, truth: WorldTruth): MillStudy[] {
  const counted = ['first sack', 'second sack', 'third sack', 'fourth sack'].map((trial, i) => {
    const world = createWorld(truth);
    const run = shownBy(gadget, world, 0);
    world.setCondition('z-up');
    run.warmUp();
    world.setCondition('shaking');
    run.run(45 + 15 * i);
    const [byHand] = world.instruments();
    return { trial, truth: byHand!.value, counted: run.figure('count') };
  });
  const idle = (['z-up', 'handling'] as const).map((condition) => {
    const world = createWorld(truth);
    const run = shownBy(gadget, world, 0);
    world.setCondition(condition);
    run.warmUp();
    run.run(60 * MINUTES);
    const count = run.figure('count');
    return {
      way: condition === 'z-up' ? 'nothing happens' : 'being handled',
      minutes: MINUTES,
      counted: Number.isFinite(count) ? count : 0,
    };
  });
  return [
    {
      of: { kind: 'counting', channelId: 'shake', figureId: 'count' },
      told: { by: 'Miller', place: 'Bolting floor', settings: { allowedPercent: 2 } },
      rows: counted,
      from: 'live',
    },
    {
      of: { kind: 'false-triggers', channelId: 'shake', figureId: 'count' },
      told: { by: 'Miller', place: 'Bolting floor', settings: { allowedPerHour: 20 } },
      rows: idle,
      from: 'live',
    },
  ];
}

/** As long as each half of the negative test takes. */
const MINUTES = 10;
