export { faceUnit } from './faceUnit.ts';
export { stepAlarm, alarmFault, QUIET, type AlarmMemory, type AlarmState } from './alarm.ts';
export { characterFace, type FaceCell, type FaceChannel, type FaceContent } from './characterFace.ts';
