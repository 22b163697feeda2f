import { describe, expect, it } from 'vitest';
import {
  changed,
  displayGrid,
  FACE_WIDGETS,
  placed,
  withKeptFigures,
  withWidget,
  without,
} from '../src/face/index.ts';
import type { FacePage } from '../src/model/index.ts';
import { familyGadget } from './support/familyGadget.ts';

const pixels = displayGrid({ widthPx: 144, heightPx: 168, columns: 0, rows: 0 });
const letters = displayGrid({ widthPx: 0, heightPx: 0, columns: 20, rows: 4 });
const empty: FacePage = { name: 'Page 1', widgets: [] };
const overlaps = ({ widgets }: FacePage) =>
  widgets.some((a, i) =>
    widgets.some(
      (b, k) =>
        k > i && a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height,
    ),
  );

describe('arranging a page', () => {
  it.each(FACE_WIDGETS.map((k) => [k.kind] as const))(
    '%s comes where there is room, with an id of its own',
    (kind) => {
      for (const grid of [pixels, letters]) {
        let page = withWidget(grid, empty, 'states', 'a');
        page = withWidget(grid, page, kind, 'a');
        expect(overlaps(page)).toBe(false);
        page = withWidget(grid, without(page, page.widgets[0]!.id), kind, 'a');
        expect(new Set(page.widgets.map((w) => w.id)).size).toBe(2);
        for (const w of page.widgets) {
          expect(w.x + w.width).toBeLessThanOrEqual(grid.columns);
          expect(w.y + w.height).toBeLessThanOrEqual(grid.rows);
        }
      }
    },
  );

  it('lays it over the others where no room is left', () => {
    let page = empty;
    for (let k = 0; k < 6; k++) page = withWidget(letters, page, 'row', 'a');
    expect(page.widgets.map((w) => w.y)).toEqual([0, 1, 2, 3, 3, 3]);
  });

  it('keeps what is moved or made larger within the display', () => {
    const page = withWidget(pixels, empty, 'row', 'a');
    const { id } = page.widgets[0]!;
    const at = (place: Parameters<typeof placed>[3]) => placed(pixels, page, id, place).widgets[0]!;
    expect(at({ x: -5, y: 400 })).toMatchObject({ x: 0, y: 42 - page.widgets[0]!.height });
    expect(at({ width: 0, height: 900 })).toMatchObject({ width: 2, height: 42, y: 0 });
    expect(at({ x: 30, width: 30 })).toMatchObject({ x: 6, width: 30 });
    expect(changed(page, 'other', (w) => ({ ...w, text: 'x' }))).toEqual(page);
  });
});

describe('figures that a face wants kept', () => {
  const { channels } = familyGadget(14);
  const [first] = channels;
  const pageWith = (kind: string, channelId: string): FacePage => withWidget(pixels, empty, kind, channelId);

  it('are added to the channel that is shown, once', () => {
    const next = withKeptFigures(channels, [pageWith('extremes', first!.id), pageWith('peak', first!.id)]);
    expect(next[0]!.figures!.map((f) => [f.kind, f.params['which']])).toEqual([
      ...(first!.figures ?? []).map((f) => [f.kind, f.params['which']]),
      ['extreme', 'lowest'],
      ['extreme', 'highest'],
    ]);
    expect(next.slice(1)).toEqual(channels.slice(1));
    expect(withKeptFigures(next, [pageWith('peak', first!.id)])).toEqual(next);
  });

  it('change nothing where nothing wants them', () => {
    expect(withKeptFigures(channels, [pageWith('figure', first!.id)])).toEqual(channels);
  });
});
