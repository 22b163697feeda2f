export { UNITS, UNIT_IDS, unitsOf, type UnitId, type UnitInfo } from './table.ts';
export { convertUnit, convertDifference } from './convert.ts';
export {
  decimalsFor,
  printConstant,
  printNumber,
  printSignificant,
  printWithUncertainty,
  type PrintedQuantity,
} from './print.ts';
