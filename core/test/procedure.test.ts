import { describe, expect, it } from 'vitest';
import {
  analyseCell,
  cellProcedure,
  checkProcedure,
  exposureProcedure,
  runProcedure,
  sixRestsProcedure,
  slotState,
  staircaseProcedure,
  step,
  type Procedure,
} from '../src/procedure/index.ts';
import { createWorld, FAMILIES } from '../src/simulate/index.ts';

const plain = (steps: Procedure['steps'], abortIf: Procedure['abortIf'] = []): Procedure => ({
  title: 'Test',
  steps,
  abortIf,
  safe: { heater: false },
});
const kinds = (run: ReturnType<typeof runProcedure>) => run.events.map((e) => `${e.kind}:${e.stepId}`);

describe('a procedure', () => {
  it('goes on by time and by condition, switches, and ends safe', () => {
    const run = runProcedure(
      plain([
        step('heat', 'Heat', {
          set: { heater: true },
          until: [{ kind: 'above', reading: 't', value: 60, holdS: 2 }],
          maxS: 100,
        }),
        step('soak', 'Soak', { minS: 5 }),
      ]),
      0,
    );
    expect(run.outputs).toEqual({ heater: true });
    for (let t = 1; t <= 10; t++) run.push(t, { t: t === 4 ? 50 : 50 + 4 * t });
    expect(run.step.id).toBe('soak');
    expect(run.events[1]!.timeS).toBe(7);
    for (let t = 11; t <= 13; t++) run.push(t, { t: 90 });
    expect(run.state).toBe('done');
    expect(run.outputs).toEqual({ heater: false });
    expect(kinds(run)).toEqual(['step:heat', 'step:soak', 'done:soak']);
  });

  it('aborts at a limit in any step, also while paused, and makes everything safe', () => {
    const make = () =>
      runProcedure(
        plain(
          [step('a', 'A', { set: { heater: true }, minS: 100 })],
          [{ kind: 'above', reading: 't', value: 45, holdS: 2 }],
        ),
        0,
      );
    const run = make();
    run.push(1, { t: 50 });
    run.push(2, { t: 40 });
    run.push(3, { t: 50 });
    expect(run.state).toBe('running');
    run.push(5, { t: 50 });
    expect(run).toMatchObject({ state: 'aborted', outputs: { heater: false } });
    expect(run.events.at(-1)!.text).toBe('Limit: t above 45 for 2 s.');
    const paused = make();
    paused.pause(1);
    paused.push(2, { t: 60 });
    paused.push(5, { t: 60 });
    expect(paused.state).toBe('aborted');
  });

  it('stops the clock of a step in a pause, and lets conditions hold anew', () => {
    const run = runProcedure(plain([step('a', 'A', { minS: 10 })]), 0);
    run.push(5, {});
    run.pause(5);
    run.push(50, {});
    run.resume(60);
    run.push(64, {});
    expect([run.state, run.elapsedS]).toEqual(['running', 9]);
    run.push(65, {});
    expect(run.state).toBe('done');
  });

  it('is not blind: readings that a limit needs must come', () => {
    const run = runProcedure(
      plain([step('a', 'A', { minS: 100 })], [{ kind: 'above', reading: 't', value: 45, holdS: 0 }]),
      0,
    );
    for (let t = 1; t <= 4; t++) run.push(t, { t: Number.NaN });
    run.push(5, { t: 20 });
    for (let t = 6; t <= 11; t++) run.push(t, {});
    expect(run.state).toBe('running');
    run.push(12, {});
    expect(run.events.at(-1)!.text).toMatch(/No reading from t for five seconds/);
  });

  it('asks, waits for the answer, and aborts by hand, by time-out and by time going back', () => {
    const asking = runProcedure(plain([step('q', 'Q', { ask: 'Ready?' }), step('a', 'A', { minS: 1 })]), 0);
    asking.push(10, {});
    expect(asking.state).toBe('asking');
    asking.confirm(11);
    expect(asking.step.id).toBe('a');
    asking.abort(12, 'By hand.');
    asking.push(13, {});
    expect(kinds(asking)).toEqual(['asks:q', 'step:q', 'step:a', 'aborted:a']);
    const late = runProcedure(
      plain([step('a', 'A', { until: [{ kind: 'below', reading: 'x', value: 0, holdS: 0 }], maxS: 5 })]),
      0,
    );
    late.push(6, { x: 1 });
    expect(late.events.at(-1)!.text).toBe('“A” took longer than 5 s.');
    const back = runProcedure(plain([step('a', 'A', { minS: 5 })]), 10);
    back.push(9, {});
    expect(back.events.at(-1)!.text).toMatch(/Time went backwards, from 10 s to 9 s/);
    const goesOn = runProcedure(
      plain([
        step('a', 'A', {
          maxS: 5,
          onTimeout: 'next',
          until: [{ kind: 'below', reading: 'x', value: 0, holdS: 0 }],
        }),
      ]),
      0,
    );
    goesOn.push(6, { x: 1 });
    expect(goesOn.state).toBe('done');
  });

  it('waits for steadiness', () => {
    const run = runProcedure(
      plain([step('a', 'A', { until: [{ kind: 'steady', reading: 'x', within: 1, holdS: 3 }], maxS: 100 })]),
      0,
    );
    [0, 5, 9, 9.5, 9.2, 9.4, 9.1].forEach((x, i) => run.push(i + 1, { x }));
    expect(run.state).toBe('done');
    expect(run.events.at(-1)!.timeS).toBe(6);
  });

  it.each<[Procedure, RegExp]>([
    [plain([]), /has no step/],
    [plain([step('a', 'A')]), /has no end/],
    [plain([step('a', 'A', { minS: 5, maxS: 1 })]), /received 1 s/],
    [plain([step('a', 'A', { minS: 1 }), step('a', 'B', { minS: 1 })]), /Two steps have the ID “a”/],
    [
      plain([
        step('a', 'A', { minS: 1, until: [{ kind: 'above', reading: 'x', value: Number.NaN, holdS: 0 }] }),
      ]),
      /received NaN/,
    ],
  ])('refuses what cannot work', (procedure, message) =>
    expect(() => checkProcedure(procedure)).toThrow(message),
  );
});

describe('ready-made procedures', () => {
  it('are sound', () => {
    for (const p of [
      cellProcedure('lithium', 2000, 0.5),
      cellProcedure('alkaline', 2000, 0.2),
      exposureProcedure(300, 60),
      sixRestsProcedure(),
      staircaseProcedure([20, 5, 10], 0.1),
    ])
      checkProcedure(p);
    expect(cellProcedure('alkaline', 2000, 0.2).steps[0]!.id).toBe('rest-1');
    expect(staircaseProcedure([20, 5, 10], 0.1).steps.map((s) => s.id)).toEqual([
      'up-5',
      'up-10',
      'up-20',
      'down-10',
      'down-5',
    ]);
    expect(() => cellProcedure('nimh', 0, 1)).toThrow(/received 0 mAh/);
    expect(() => staircaseProcedure([1], 1)).toThrow(/received 1/);
  });

  it('take a simulated cell through charge, rest, discharge and rest, and the analysis finds its hidden constants', () => {
    const truth = FAMILIES.find((f) => f.family === 9)!.draw(4);
    if (truth.kind !== 'cell-bench') throw new Error(truth.kind);
    const world = createWorld(truth);
    const run = runProcedure(cellProcedure('lithium', 1900, 0.8), 0);
    const rows: { t: number; v: number; i: number }[] = [];
    for (let t = 1; t < 60_000 && run.state === 'running'; t++) {
      world.setCondition(run.outputs['load'] ? 'discharge' : run.outputs['charger'] ? 'charge' : 'rest');
      const [cv, ci, ct] = world.step(1);
      const volts = ((cv! / 4095) * truth.referenceV - truth.liftV) * truth.dividerRatio;
      const amperes =
        ((ci! / 4095) * truth.referenceV - truth.referenceV / 2) / (truth.shuntOhm * truth.shuntGain);
      run.push(t, { volts, amperes, celsius: ((ct! / 4095) * truth.referenceV - 0.5) / 0.01 });
      if (run.step.id === 'discharge' || run.step.id === 'rest-1')
        rows.push({ t, v: volts, i: Math.abs(amperes) < 0.01 ? 0 : amperes });
    }
    expect(run.state).toBe('done');
    expect(run.events.filter((e) => e.kind === 'step').map((e) => e.stepId)).toEqual([
      'charge',
      'rest-1',
      'discharge',
      'rest-2',
    ]);
    const cell = analyseCell(
      { timesS: rows.map((r) => r.t), volts: rows.map((r) => r.v), amperes: rows.map((r) => r.i) },
      'lithium',
      1900,
    );
    expect(cell.state).toBe('ready');
    // The last few per cent lie under the cut-off at this load.
    expect(cell.capacityMah! / truth.capacityMah).toBeGreaterThan(0.9);
    expect(cell.capacityMah! / truth.capacityMah).toBeLessThan(1.01);
    expect(cell.internalOhm!.value / truth.internalOhm).toBeCloseTo(1, 1);
    expect(cell.loadHeatW).toBeGreaterThan(2);
    expect(cell.verdict).toBe('good');
  });
});

describe('cell analysis', () => {
  const record = (volts: number[], amperes: number[]) => ({
    timesS: volts.map((_, i) => i * 360),
    volts,
    amperes,
  });

  it('counts to the cut-off between samples: 1 A for 0.3 h', () => {
    const cell = analyseCell(record([4, 4, 3.5, 3.25, 2.75], [0, 1, 1, 1, 1]), 'lithium', 250);
    // Half a step of the ramp-up (no current before), two whole steps and half of the last.
    expect(cell.capacityMah).toBeCloseTo(50 + 100 + 100 + 50, 9);
    expect(cell.verdict).toBe('good');
    expect(cell.energyMwh! / cell.capacityMah!).toBeGreaterThan(3);
  });

  it('is not shown before the cut-off, and knows bad slots', () => {
    expect(analyseCell(record([4, 3.9, 3.8], [1, 1, 1]), 'lithium', 2000)).toMatchObject({
      capacityMah: null,
      verdict: 'not shown',
      internalOhm: null,
    });
    expect(analyseCell(record([0, 0], [0, 0]), 'nimh', 1000)).toMatchObject({
      state: 'empty',
      verdict: 'not shown',
    });
    expect([-3, 0, 1, 4, 5].map((v) => slotState(v, 'lithium'))).toEqual([
      'reversed',
      'empty',
      'dead',
      'ready',
      'wrong chemistry',
    ]);
    expect(() => analyseCell(record([1], [1]), 'nimh', 1000)).toThrow(/at least 2 readings; received 1/);
    expect(() => analyseCell({ timesS: [0, 1], volts: [1], amperes: [1, 1] }, 'nimh', 1)).toThrow(
      /must be equal/,
    );
  });

  it('grades by the rated capacity', () => {
    const spent = record([4, 3.6, 2.9], [1, 1, 1]);
    expect([200, 260, 400].map((rated) => analyseCell(spent, 'lithium', rated).verdict)).toEqual([
      'good',
      'worn',
      'spent',
    ]);
  });
});
