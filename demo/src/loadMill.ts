import { steadyLimits, steadyWindow } from '@lucky-needle/core/calibrate';
import { boardReader } from '@lucky-needle/core/formats';
import { compileLine } from '@lucky-needle/core/line';
import type {
  Capture,
  Gadget,
  GadgetPatch,
  NewCalibration,
  NewGadget,
  NewPoint,
} from '@lucky-needle/core/model';
import { PLAIN_HOOKUP, proposedAlarms } from '@lucky-needle/core/plan';
import { boardLine, createWorld, FAMILIES, type World, type WorldTruth } from '@lucky-needle/core/simulate';
import { ELEVATION_M, KILN, KILN_TRUTH, PROBE_1_POINTS } from './kiln.ts';
import { MILL_GADGETS, type MillGadget } from './millGadgets.ts';
import { truthOf } from './past.ts';
import { sieveStudies, sprintStudies, type MillStudy } from './studies.ts';

/** The doors of the bench that the mill comes in by: the same that a maker uses. */
export interface MillBench {
  create(input: NewGadget, at: string): Promise<Gadget>;
  patch(id: string, version: string, patch: GadgetPatch, at: string): Promise<Gadget>;
  keepPoint(gadgetId: string, input: NewPoint, keptAt: string): Promise<unknown>;
  calibrate(gadgetId: string, input: NewCalibration, at: string): Promise<unknown>;
  storeBoardText(
    gadgetId: string,
    name: string,
    startedAt: string,
    columns: readonly string[],
    lines: Iterable<string>,
  ): Promise<unknown>;
  attachSimulator(gadgetId: string, truth: WorldTruth, name: string): Promise<unknown>;
  study(gadgetId: string, input: MillStudy, at: string): Promise<unknown>;
  now(): string;
}

/**
 * Loads Quillmere Mill: its fourteen gadgets, last week's true-up of the kiln's probe 1 and one finished run, all computed by running the
 * simulated world through the same text lines, capture rules and fits that a maker's own gadget goes through.
 */
export async function loadMill(bench: MillBench): Promise<Gadget> {
  const now = Date.parse(bench.now());
  const ago = (days: number, minutes = 0) =>
    new Date(now - days * 86_400_000 + minutes * 60_000).toISOString();
  const blank = await bench.create({ template: 'several-temperatures', name: KILN.name }, ago(9));
  const gadget = await bench.patch(blank.id, String(blank.version), KILN, ago(9, 25));

  const world = createWorld(KILN_TRUTH);
  for (const [i, scripted] of PROBE_1_POINTS.entries()) {
    world.setCondition(scripted.condition);
    const capture = captureSteady(world, gadget, 0);
    const [thermometer, barometer] = world.instruments();
    const reference = scripted.reference({
      thermometerC: thermometer!.value,
      barometerHpa: barometer!.value,
    });
    await bench.keepPoint(
      gadget.id,
      { channelId: 'p1', role: scripted.role, reference, capture },
      ago(6, 8 * i),
    );
  }
  await bench.calibrate(
    gadget.id,
    { channelId: 'p1', fit: 'steinhart-hart', use: true, note: '' },
    ago(6, 45),
  );
  await bench.storeBoardText(gadget.id, 'First firing, oak boards', ago(2), world.columns, firing(90 * 60));
  await bench.attachSimulator(gadget.id, KILN_TRUTH, 'kiln-sim');
  for (const [i, mill] of MILL_GADGETS.entries())
    await loadMillGadget(bench, mill, ago(8, 30 * i), ago(7, 30 * i));
  return gadget;
}

/** Gadgets of which the mill's people have already studied something. */
const STUDIES: Readonly<
  Record<string, (gadget: Gadget, truth: WorldTruth, draw: (seed: number) => WorldTruth) => MillStudy[]>
> = {
  sprint: sprintStudies,
  'motion-counter': sieveStudies,
};

/** Another gadget of the mill: briefed, picked, hooked up and linked to its simulated board, waiting for its true-up. */
async function loadMillGadget(
  bench: MillBench,
  mill: MillGadget,
  startedAt: string,
  changedAt: string,
): Promise<void> {
  const blank = await bench.create({ template: mill.template, name: mill.name }, startedAt);
  const brief = { ...blank.brief!, ...mill.brief };
  const gadget = await bench.patch(
    blank.id,
    String(blank.version),
    {
      place: { name: `Quillmere Mill, ${mill.place}`, elevationM: ELEVATION_M, pressureHpa: null },
      brief,
      picks: [...mill.picks],
      hookup: { ...PLAIN_HOOKUP, ...mill.hookup },
      face: { displayId: mill.picks.find((p) => p.slot === 'display')!.partId, ...mill.face },
      alarms: proposedAlarms({ ...blank, brief }),
    },
    changedAt,
  );
  const family = FAMILIES.find((f) => f.family === mill.family)!;
  const truth = truthOf(mill.template);
  await bench.attachSimulator(gadget.id, truth, `${mill.template}-sim`);
  for (const study of STUDIES[mill.template]?.(gadget, truth, family.draw) ?? [])
    await bench.study(gadget.id, study, changedAt);
}

/** Lets the world run until the channel is steady, as a maker would wait, and returns the capture. */
function captureSteady(world: World, gadget: Gadget, channel: number): Capture {
  const period = 1 / gadget.sampleRateHz;
  const line = compileLine(gadget.channels[channel]!.line, { sampleRateHz: gadget.sampleRateHz });
  const read = boardReader(world.columns);
  const times: number[] = [];
  const values: number[] = [];
  for (let timeS = period; timeS < 600; timeS += period) {
    const reading = read(boardLine(timeS, world.step(period)));
    if (reading.kind !== 'reading')
      throw new Error(`The simulated board printed an unreadable line: ${JSON.stringify(reading)}`);
    times.push(reading.timeS);
    values.push(reading.values[channel]!);
    if (times.length % 20 !== 0 || timeS < 30) continue;
    const limits = steadyLimits(line, reading.values[channel]!, gadget.brief!.asks[0]!.tolerance);
    const state = steadyWindow(times, values, () => true, limits);
    if (state.steady && state.steadyForS > 12) return state.capture!;
  }
  throw new Error('The simulated probe did not become steady within ten minutes.');
}

/** A kiln heating from cold, as the board printed it once a second. */
function* firing(lengthS: number): Generator<string> {
  const world = createWorld({ ...KILN_TRUTH, seed: 641 });
  world.setCondition('room');
  for (let i = 0; i < 600; i++) world.step(0.1);
  world.setCondition('kiln');
  for (let i = 1; i <= lengthS * 10; i++) yield boardLine(i / 10, world.step(0.1));
}
