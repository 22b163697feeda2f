import { Type } from 'typebox';
import { whole } from '../stage/params.ts';
import { vectorStage } from '../stage/vectorStage.ts';

/** Goes on with one of several columns. */
export const pickColumn = vectorStage<{ column: number }>({
  kind: 'pick-column',
  title: 'Column selection',
  summary: 'Continues with one of several columns',
  params: Type.Object({ column: whole('Column', { min: 1, max: 16 }) }),
  defaults: { column: 1 },
  takes: 'several columns, including the selected one',
  gives: ({ column }, inputs) => (inputs.length > 1 && inputs[column - 1] ? [inputs[column - 1]!] : null),
  names: ({ column }, names) => [names[column - 1]!],
  uses: ({ column }) => [column - 1],
  vector: ({ column }) => ({ forward: (values) => [values[column - 1]!] }),
  emitC({ column }, c) {
    c.line(`x[0] = x[${column - 1}];`);
  },
});
