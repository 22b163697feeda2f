export { faceUnit } from './faceUnit.ts';
export { characterFace, type FaceCell, type FaceChannel, type FaceContent } from './characterFace.ts';
