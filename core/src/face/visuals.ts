import { INK, widthOf, type Canvas } from './canvas.ts';
import type { FaceReading } from './faceContent.ts';
import { SMALL } from './fonts/small.ts';

/** A rectangle of a display, pixels. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Something drawn beside a figure. */
export type Visual = (canvas: Canvas, box: Box, reading: FaceReading) => void;

/** Half a circle with a needle; the ends of the brief below it. */
export const dial: Visual = (canvas, { x, y, width, height }, { share, ends }) => {
  const labels = height > 3 * SMALL.height ? SMALL.height + 1 : 0;
  const radius = Math.floor(Math.min(width / 2 - 2, height - labels - 3));
  const [cx, cy] = [x + width / 2, y + 1 + radius + (height - labels - 3 - radius) / 2];
  canvas.arc(cx, cy, radius, -90, 90, INK.ink);
  canvas.arc(cx, cy, radius - 1, -90, 90, INK.ink);
  for (let k = 0; k <= 10; k++) {
    const a = ((-90 + 18 * k) * Math.PI) / 180;
    const length = k % 5 === 0 ? 0.8 : 0.9;
    canvas.line(
      cx + radius * length * Math.sin(a),
      cy - radius * length * Math.cos(a),
      cx + (radius - 2) * Math.sin(a),
      cy - (radius - 2) * Math.cos(a),
      k % 5 === 0 ? INK.ink : INK.dim,
    );
  }
  if (share !== null) {
    const a = ((-90 + 180 * Math.min(1, Math.max(0, share))) * Math.PI) / 180;
    for (const off of [-1, -0.5, 0, 0.5, 1])
      canvas.line(
        cx + off,
        cy,
        cx + 0.86 * radius * Math.sin(a),
        cy - 0.86 * radius * Math.cos(a),
        INK.accent,
      );
    canvas.fill(cx - 2, cy - 2, 5, 4, INK.accent);
  }
  if (labels === 0) return;
  canvas.text(SMALL, Math.max(x, Math.round(cx - radius)), cy + 3, ends[0], INK.dim);
  const right = Math.min(x + width, Math.round(cx + radius));
  canvas.text(SMALL, right - widthOf(SMALL, ends[1]), cy + 3, ends[1], INK.dim);
};

/** A bar between the ends of the brief. */
export const bar: Visual = (canvas, { x, y, width, height }, { share, ends }) => {
  const labels = height >= SMALL.height + 9 ? SMALL.height : 0;
  const high = Math.min(height - labels, 16);
  const top = y + Math.floor((height - labels - high) / 2);
  canvas.frame(x, top, width, high, INK.ink);
  if (share !== null) {
    const full = Math.round((width - 4) * Math.min(1, Math.max(0, share)));
    canvas.fill(x + 2, top + 2, full, high - 4, INK.accent);
  }
  if (labels === 0) return;
  canvas.text(SMALL, x, top + high, ends[0], INK.dim);
  canvas.text(SMALL, x + width - widthOf(SMALL, ends[1]), top + high, ends[1], INK.dim);
};

/** The newest readings as a line, from their lowest to their highest. */
export const trend: Visual = (canvas, { x, y, width, height }, { history }) => {
  canvas.fill(x, y + height - 1, width, 1, INK.dim);
  canvas.fill(x, y, 1, height, INK.dim);
  const good = history.filter(Number.isFinite);
  if (good.length < 2) return;
  const [low, high] = [Math.min(...good), Math.max(...good)];
  const at = (v: number) => y + 1 + (height - 4) * (high > low ? (high - v) / (high - low) : 0.5);
  const step = (width - 4) / (history.length - 1);
  history.forEach((v, i) => {
    const before = history[i - 1];
    if (before !== undefined && Number.isFinite(v) && Number.isFinite(before))
      canvas.line(x + 2 + (i - 1) * step, at(before), x + 2 + i * step, at(v), INK.accent);
  });
};

/** A compass rose: north on top, the arrow the way it points. */
export const rose: Visual = (canvas, { x, y, width, height }, { courseDeg }) => {
  const radius = Math.floor(Math.min(width, height) / 2) - 2;
  const [cx, cy] = [x + Math.floor(width / 2), y + Math.floor(height / 2)];
  canvas.arc(cx, cy, radius, 0, 360, INK.ink);
  for (let k = 0; k < 8; k++) {
    const a = (k * Math.PI) / 4;
    const length = k % 2 === 0 ? 0.84 : 0.92;
    canvas.line(
      cx + radius * length * Math.sin(a),
      cy - radius * length * Math.cos(a),
      cx + radius * Math.sin(a),
      cy - radius * Math.cos(a),
      INK.ink,
    );
  }
  if (radius >= 20) canvas.text(SMALL, cx - 3, cy - Math.round(0.84 * radius) + 1, 'N', INK.dim);
  if (courseDeg === null) return;
  const a = (courseDeg * Math.PI) / 180;
  const [sin, cos] = [Math.sin(a), Math.cos(a)];
  const reach = 0.58 * radius;
  const [tx, ty] = [cx + reach * sin, cy - reach * cos];
  for (const side of [-1, -0.5, 0, 0.5, 1])
    canvas.line(
      cx - reach * sin + side * cos,
      cy + reach * cos + side * sin,
      tx + side * cos,
      ty + side * sin,
      INK.accent,
    );
  for (const side of [-1, 1]) {
    const b = a + side * 0.5;
    canvas.line(tx, ty, tx - 0.3 * radius * Math.sin(b), ty + 0.3 * radius * Math.cos(b), INK.accent);
  }
};
