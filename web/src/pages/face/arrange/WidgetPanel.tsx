import { changed, faceWidget, placed, without, type DisplayGrid, type Place } from '@lucky-needle/core/face';
import type { FacePage, Gadget } from '@lucky-needle/core/model';
import { Choice } from '../../../parts/Choice.tsx';
import { NumberField } from '../../../parts/NumberField.tsx';

interface Props {
  readonly gadget: Gadget;
  readonly grid: DisplayGrid;
  readonly page: FacePage;
  readonly chosen: string;
  /** Whether several channels can be compared, so that the highest of them can be followed. */
  readonly canFollow: boolean;
  onPage(page: FacePage): void;
}

/** What the chosen thing shows, and where it stands. */
export function WidgetPanel({ gadget, grid, page, chosen, canFollow, onPage }: Props) {
  const w = page.widgets.find((p) => p.id === chosen);
  const kind = w && faceWidget(w.kind);
  if (!w || !kind) return null;
  const isRace = kind.wants === 'race';
  const sources = gadget.channels.flatMap((c): readonly (readonly [string, string])[] => [
    ...(isRace ? [] : [[c.id, c.name] as const]),
    ...(kind.keeps
      ? []
      : (c.figures ?? [])
          .filter((f) => !isRace || 'from' in f.watches)
          .map((f) => [`${c.id}/${f.id}`, `${c.name}: ${f.name}`] as const)),
  ]);
  const move = (place: Place) => onPage(placed(grid, page, w.id, place));
  const least = grid.cellPx === 0 ? 1 : 2;
  const between = (low: number, high: number) => (v: number) =>
    Number.isInteger(v) && v >= low && v <= high ? null : `Enter a whole number from ${low} to ${high}.`;
  return (
    <fieldset className="grid gap-3">
      <legend className="mb-2 font-semibold">{kind.title}</legend>
      {(kind.wants !== 'none' || w.kind === 'states') && (
        <Choice
          wide
          label="Shows"
          value={w.figureId === null ? w.channelId : `${w.channelId}/${w.figureId}`}
          onChange={(id) => {
            const [channelId = '', figureId = null] = id.split('/');
            onPage(changed(page, w.id, (old) => ({ ...old, channelId, figureId })));
          }}
          options={[
            ...(w.kind === 'states' ? [['', 'the text below'] as const] : []),
            ...(canFollow && !isRace && !kind.keeps
              ? [['highest', 'Channel with the highest reading'] as const]
              : []),
            ...sources,
          ]}
        />
      )}
      {(w.kind === 'label' || w.kind === 'states' || w.kind === 'row' || kind.keeps) && (
        <label className="block">
          <span className="muted mb-1 block text-xs">
            {w.kind === 'label' ? 'Text' : 'Text instead of the name'}
          </span>
          <input
            className="input input-sm w-full"
            value={w.text}
            maxLength={40}
            onChange={(e) => onPage(changed(page, w.id, (old) => ({ ...old, text: e.target.value })))}
          />
        </label>
      )}
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Column"
          value={w.x + 1}
          check={between(1, grid.columns - w.width + 1)}
          onChange={(x) => move({ x: x - 1 })}
        />
        <NumberField
          label="Row"
          value={w.y + 1}
          check={between(1, grid.rows - w.height + 1)}
          onChange={(y) => move({ y: y - 1 })}
        />
        <NumberField
          label="Width"
          value={w.width}
          check={between(least, grid.columns)}
          onChange={(width) => move({ width })}
        />
        <NumberField
          label="Height"
          value={w.height}
          check={between(least, grid.rows)}
          onChange={(height) => move({ height })}
        />
      </div>
      <p className="muted text-xs">
        {grid.cellPx === 0
          ? 'Positions are in characters.'
          : `Positions are in steps of ${grid.cellPx} pixels.`}{' '}
        You can also drag the item, move it with the arrow keys, or resize it with Shift and the arrow keys.
      </p>
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        onClick={() => onPage(without(page, w.id))}
      >
        Remove item
      </button>
    </fieldset>
  );
}
