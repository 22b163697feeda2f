export { standardPressureHpa } from './atmosphere.ts';
export { boilingPointC } from './boilingPoint.ts';
export { waterDensity } from './waterDensity.ts';
export { localGravity, GRAVITY_UNCERTAINTY } from './localGravity.ts';
export { bearingDeg, greatCircleM } from './bearing.ts';
export { referenceValue } from './referenceValue.ts';
export { referencesFor, startReference, type OfferedReference, type ReferenceKind } from './referencesFor.ts';
export { ownReferenceState, type OwnReferenceState } from './ownReferenceState.ts';
