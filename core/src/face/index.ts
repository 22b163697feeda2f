export { Canvas, INK, type Ink } from './canvas.ts';
export type { FaceCell } from './characterGrid.ts';
export { displayGrid, type DisplayGrid } from './displayGrid.ts';
export { changed, placed, withWidget, without, type Place } from './editPages.ts';
export { emitFace, type ShownInC } from './emitFace.ts';
export { alarmWord, type FaceAlarm, type FaceReading } from './faceContent.ts';
export {
  boxOf,
  characterPage,
  pixelPage,
  spokenPage,
  type PageContent,
  type PixelFace,
  type PlacedWidget,
} from './pageFace.ts';
export { heldFigure, raceFigure, withKeptFigures } from './keptFigures.ts';
export { stopwatchOf } from './stopwatchOf.ts';
export { faceSpectrum, SPECTRUM_OF } from './faceSpectrum.ts';
export { startingPages, type LaidOut } from './startingPages.ts';
export type { FaceSpectrum, FaceWidgetKind, Race, WidgetSeen } from './widgets/kind.ts';
export { FACE_WIDGETS, faceWidget } from './widgets/registry.ts';
