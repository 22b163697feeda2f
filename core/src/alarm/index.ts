export { alarmFault } from './alarmFault.ts';
export { levelsOf, sizeOf } from './alarmSize.ts';
export { createAlarms, gravest, type AlarmChange, type AlarmMemory, type Alarms } from './createAlarms.ts';
export { cNames, cString, emitAlarms } from './emitAlarms.ts';
export { isSounding, outputsOf, pageAsked, type AlarmOutputs, type LampState } from './outputs.ts';
export { inUnitOf } from './inUnitOf.ts';
