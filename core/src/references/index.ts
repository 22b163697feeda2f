export { standardPressureHpa } from './atmosphere.ts';
export { boilingPointC } from './boilingPoint.ts';
export { referenceValue } from './referenceValue.ts';
