import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';

/** A value over its baseline, such as Rs / R0 of a gas element with R0 from clean air after warm-up. */
export const ratioToBaseline = scalarStage<{ baseline: number; factor: number }>({
  kind: 'ratio-to-baseline',
  title: 'Ratio to baseline',
  summary: 'Divides the reading by its value in clean air or at rest',
  params: Type.Object({
    baseline: number('Baseline', { above: 0 }),
    factor: number('Factor for temperature and humidity', { above: 0, max: 100 }),
  }),
  defaults: { baseline: 1, factor: 1 },
  takes: 'any',
  gives: () => '1',
  scalar({ baseline, factor }) {
    const scale = 1 / (baseline * factor);
    return { forward: (x) => x * scale, inverse: (y) => y / scale, derivative: () => scale };
  },
  emitC({ baseline, factor }, c) {
    c.line(`x = x / (${c.constant('BASELINE', baseline, '')} * ${c.constant('FACTOR', factor, '')});`);
  },
});
