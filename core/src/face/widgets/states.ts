import { fitted, INK, widthOf, type Ink } from '../canvas.ts';
import { cut } from '../characterGrid.ts';
import { alarmWord, shortName } from '../faceContent.ts';
import { BOLD } from '../fonts/bold.ts';
import { PLAIN } from '../fonts/plain.ts';
import { SMALL } from '../fonts/small.ts';
import type { FaceWidgetKind } from './kind.ts';

/** A bar with a name; filled and with the alarm's own name while one is on. */
export const states: FaceWidgetKind = {
  kind: 'states',
  title: 'Name and alarm',
  summary: 'A bar with the name; filled and showing the alarm’s name while an alarm is active',
  wants: 'none',
  starts: [1, 0.13],
  draw(canvas, { x, y, width, height }, { alarm, title }, misses) {
    const word = alarmWord(alarm);
    const font = [BOLD, PLAIN, SMALL].find(
      (f) => f.height <= height && (f !== BOLD || width >= 240) && widthOf(f, word) + 3 * f.width <= width,
    );
    const isOn = alarm?.level === 'caution' || alarm?.level === 'limit';
    const ground: Ink = alarm?.level === 'limit' ? INK.limit : INK.caution;
    if (isOn) canvas.fill(x, y, width, height, ground);
    else canvas.fill(x, y + height - 1, width, 1, INK.dim);
    if (!font) {
      if (word) misses.push(`“${word}” does not fit in its bar. Enlarge the item.`);
      return;
    }
    const ink = isOn ? INK.ground : INK.ink;
    const top = y + Math.floor((height - font.height) / 2);
    const right = word ? widthOf(font, word) + 2 : 0;
    if (word) canvas.text(font, x + width - right, top, word, isOn ? ink : INK.caution);
    const room = width - right - font.width - 2;
    const text = fitted(font, isOn ? alarm.name : shortName(title, Math.floor(room / font.width)), room);
    canvas.text(font, x + 2, top, text, ink);
  },
  write(grid, { alarm, title }) {
    const word = alarmWord(alarm);
    if (!word) grid.line(0, shortName(title, grid.columns));
    else if (alarm!.level === 'unknown') {
      const room = grid.columns - word.length - 1;
      grid.line(0, `${cut(shortName(title, room), room).padEnd(room + 1)}${word}`);
    } else grid.line(0, `${word} ${alarm!.name}`);
  },
};
