import { Type } from 'typebox';
import { choice, number } from '../stage/params.ts';
import type { CWriter } from '../stage/contract.ts';
import { vectorStage } from '../stage/vectorStage.ts';
import {
  THERMOCOUPLES,
  thermocoupleCelsius,
  thermocoupleMv,
  type ThermocoupleType,
} from './thermocoupleTables.ts';

/**
 * Thermocouple voltage to temperature with the cold junction counted in: the junction's own voltage is added, then the
 * reference function is turned round. The cold junction is a second column in degC, or a fixed temperature.
 */
export const thermocouple = vectorStage<{ type: string; coldC: number }>({
  kind: 'thermocouple',
  title: 'Thermocouple',
  summary: 'Converts millivolts to temperature, with cold-junction compensation',
  params: Type.Object({
    type: choice('Type', ['K', 'J', 'T']),
    coldC: number('Cold-junction temperature, if there is no column for it', {
      min: -40,
      max: 125,
      unit: 'degC',
    }),
  }),
  defaults: { type: 'K', coldC: 25 },
  takes: 'millivolts, optionally with the cold-junction temperature in °C as a second column',
  gives: (_params, inputs) =>
    inputs[0] === 'mV' && (inputs.length === 1 || (inputs.length === 2 && inputs[1] === 'degC'))
      ? ['degC']
      : null,
  vector({ type, coldC }) {
    const own = type as ThermocoupleType;
    return {
      forward: ([mv, cold]) => [thermocoupleCelsius(own, mv! + thermocoupleMv(own, cold ?? coldC))],
      inverse: ([celsius]) => [thermocoupleMv(own, celsius!) - thermocoupleMv(own, coldC)],
    };
  },
  emitC({ type, coldC }, c) {
    emitReference(type as ThermocoupleType, coldC, c);
  },
});

function emitReference(type: ThermocoupleType, coldC: number, c: CWriter): void {
  const { pieces, bump } = THERMOCOUPLES[type];
  const [first, second] = pieces;
  const join = first!.to;
  const polynomial = (k: number) =>
    pieces[k]!.coefficients.map((v, i) => c.constant(`P${k}_${i}`, v, '', true)).reduceRight(
      (sum, name) => (sum === '' ? name : `${name} + t * (${sum})`),
      '',
    );
  const extra = bump
    ? ` + (t > 0 ? ${c.constant('BUMP0', bump[0], '', true)} * exp(${c.constant('BUMP1', bump[1], '', true)} * (t - ${bump[2]}) * (t - ${bump[2]})) : 0)`
    : '';
  const value = `(t <= ${join.toFixed(1)} ? ${polynomial(0)} : ${polynomial(1)})${extra}`;
  const low = first!.from.toFixed(1);
  const high = second!.to.toFixed(1);
  c.line(`LN_WIDE t = ${c.inputs > 1 ? 'x[1]' : c.constant('COLD', coldC, 'degC', true)};`);
  c.line(`LN_WIDE mv = x[0] + (${value});`);
  // Halving needs no slope and cannot run away; 48 times reach a millionth of a degree.
  c.line(`LN_WIDE low = ${low}, high = ${high};`);
  c.line(`t = low; if (mv < (${value})) { x[0] = LN_BAD; return; }`);
  c.line(`t = high; if (mv > (${value})) { x[0] = LN_BAD; return; }`);
  c.line('for (int i = 0; i < 48; i++) {');
  c.line('  t = (low + high) / 2;');
  c.line(`  if ((${value}) > mv) high = t; else low = t;`);
  c.line('}');
  c.line('x[0] = (LN_REAL)((low + high) / 2);');
}
