export {
  DIMENSIONS,
  UNITS,
  UNIT_IDS,
  unitsOf,
  type DimensionName,
  type UnitId,
  type UnitInfo,
} from './table.ts';
export { convertUnit, convertDifference } from './convert.ts';
export { combinedUnits, integralUnit, ratePerSecondUnit } from './derived.ts';
export {
  addQuantities,
  combineQuantities,
  difference,
  point,
  quantityIn,
  subtractQuantities,
  type Quantity,
} from './quantity.ts';
export { parseQuantity, unitNamed, type ParsedQuantity } from './parse.ts';
export {
  decimalsFor,
  printConstant,
  printNominal,
  printNumber,
  printSignificant,
  printWithin,
  printWithUncertainty,
  printWorth,
  readingDecimals,
  type PrintedQuantity,
} from './print.ts';
export { isoSeconds, isoTime } from './dates.ts';
