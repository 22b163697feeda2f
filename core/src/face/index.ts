export { Canvas, INK, type Ink } from './canvas.ts';
export { characterFace, type CharacterFace, type FaceCell } from './characterFace.ts';
export { alarmWord, spokenFace, type FaceContent, type FaceReading } from './faceContent.ts';
export { pixelFace, type PixelFace } from './pixelFace.ts';
