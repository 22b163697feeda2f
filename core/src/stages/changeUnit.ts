import { Type } from 'typebox';
import { unitChoice } from '../stage/params.ts';
import { scalarStage, unitMismatch } from '../stage/scalarStage.ts';
import { convertDifference, convertUnit, UNIT_IDS, UNITS, unitsOf, type UnitId } from '../units/index.ts';

interface Units {
  from: string;
  to: string;
  [name: string]: string;
}

const ids = ({ from, to }: Units) => [from as UnitId, to as UnitId] as const;

/** The same quantity in another unit of its kind. */
export const changeUnit = scalarStage<Units>({
  kind: 'change-unit',
  title: 'Unit conversion',
  summary: 'Converts the reading to another unit of the same quantity',
  params: Type.Object({ from: unitChoice('From'), to: unitChoice('To') }),
  defaults: { from: 'degC', to: 'degF' },
  takes: UNIT_IDS.filter((id) => unitsOf(UNITS[id].dimension).length > 1),
  defaultsFor([from]) {
    const to = from && unitsOf(UNITS[from].dimension).find((id) => id !== from);
    return from && to ? { from, to } : { from: 'degC', to: 'degF' };
  },
  gives(params, input) {
    const [from, to] = ids(params);
    if (input !== from || UNITS[from].dimension !== UNITS[to].dimension)
      throw unitMismatch(`Unit conversion to ${UNITS[to].name}`, [input !== from ? from : to], [input]);
    return to;
  },
  scalar(params) {
    const [from, to] = ids(params);
    return {
      forward: (x) => convertUnit(x, from, to),
      inverse: (y) => convertUnit(y, to, from),
      derivative: () => convertDifference(1, from, to),
    };
  },
  emitC(params, c) {
    const [from, to] = ids(params);
    const scale = c.constant('SCALE', convertDifference(1, from, to), '');
    c.line(`x = x * ${scale} + ${c.constant('SHIFT', convertUnit(0, from, to), UNITS[to].symbol)};`);
  },
});
