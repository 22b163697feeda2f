import { DndContext, PointerSensor, useDraggable, useSensor, useSensors, type Modifier } from '@dnd-kit/core';
import { useRef, type KeyboardEvent } from 'react';
import { faceWidget, placed, without, type DisplayGrid, type Place } from '@lucky-needle/core/face';
import type { FacePage, FaceWidget } from '@lucky-needle/core/model';

interface Props {
  readonly grid: DisplayGrid;
  readonly page: FacePage;
  readonly chosen: string | null;
  onChoose(id: string | null): void;
  onPage(page: FacePage): void;
}

/** Behind the id of a frame whose corner is drawn, in the place of the whole. */
const CORNER = ':corner';

/** Frames over a display, to be drawn about by the pointer, or moved by the arrows and made larger with Shift. */
export function ArrangeLayer({ grid, page, chosen, onChoose, onPage }: Props) {
  const layer = useRef<HTMLDivElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 3 } }));
  const cell = () => {
    const box = layer.current?.getBoundingClientRect();
    const across = grid.cellPx === 0 ? grid.columns : grid.widthPx / grid.cellPx;
    const down = grid.cellPx === 0 ? grid.rows : grid.heightPx / grid.cellPx;
    return { x: (box?.width ?? across) / across, y: (box?.height ?? down) / down };
  };
  const snap: Modifier = ({ transform }) => {
    const { x, y } = cell();
    return { ...transform, x: Math.round(transform.x / x) * x, y: Math.round(transform.y / y) * y };
  };
  const move = (id: string, place: Place) => onPage(placed(grid, page, id, place));
  const onKey = (event: KeyboardEvent, w: FaceWidget) => {
    const step = STEPS[event.key];
    if (step) {
      const [dx, dy] = step;
      move(
        w.id,
        event.shiftKey ? { width: w.width + dx, height: w.height + dy } : { x: w.x + dx, y: w.y + dy },
      );
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      onChoose(null);
      onPage(without(page, w.id));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <DndContext
      sensors={sensors}
      modifiers={[snap]}
      onDragStart={({ active }) => onChoose(String(active.id).replace(CORNER, ''))}
      onDragEnd={({ active, delta }) => {
        const id = String(active.id).replace(CORNER, '');
        const w = page.widgets.find((p) => p.id === id);
        if (!w) return;
        const by = cell();
        const [dx, dy] = [Math.round(delta.x / by.x), Math.round(delta.y / by.y)];
        const isCorner = String(active.id).endsWith(CORNER);
        move(id, isCorner ? { width: w.width + dx, height: w.height + dy } : { x: w.x + dx, y: w.y + dy });
      }}
    >
      <div ref={layer} className="absolute inset-0" role="group" aria-label="Items on this page">
        {page.widgets.map((w) => (
          <Frame
            key={w.id}
            grid={grid}
            widget={w}
            isChosen={w.id === chosen}
            onChoose={() => onChoose(w.id)}
            onKey={(event) => onKey(event, w)}
          />
        ))}
      </div>
    </DndContext>
  );
}

const STEPS: Readonly<Record<string, readonly [dx: number, dy: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

interface FrameProps {
  readonly grid: DisplayGrid;
  readonly widget: FaceWidget;
  readonly isChosen: boolean;
  onChoose(): void;
  onKey(event: KeyboardEvent): void;
}

function Frame({ grid, widget, isChosen, onChoose, onKey }: FrameProps) {
  const { id, kind, x, y, width, height } = widget;
  const whole = useDraggable({ id });
  const corner = useDraggable({ id: `${id}${CORNER}` });
  const across = grid.cellPx === 0 ? grid.columns : grid.widthPx / grid.cellPx;
  const down = grid.cellPx === 0 ? grid.rows : grid.heightPx / grid.cellPx;
  const title = faceWidget(kind)?.title ?? kind;
  const by = whole.transform ?? { x: 0, y: 0 };
  const more = corner.transform ?? { x: 0, y: 0 };
  return (
    <div
      className="absolute"
      style={{
        left: `${(100 * x) / across}%`,
        top: `${(100 * y) / down}%`,
        width: `calc(${(100 * width) / across}% + ${more.x}px)`,
        height: `calc(${(100 * height) / down}% + ${more.y}px)`,
        transform: `translate(${by.x}px, ${by.y}px)`,
      }}
    >
      <button
        ref={whole.setNodeRef}
        type="button"
        {...whole.listeners}
        onClick={onChoose}
        onFocus={onChoose}
        onKeyDown={onKey}
        aria-pressed={isChosen}
        aria-label={`${title}, column ${x + 1}, row ${y + 1}, ${width} by ${height}`}
        className={`absolute inset-0 cursor-move touch-none border-2 ${isChosen ? 'border-solid border-accent bg-accent/15' : 'border-dashed border-accent/60 hover:border-accent'}`}
      />
      {isChosen && (
        <span
          ref={corner.setNodeRef}
          {...corner.listeners}
          aria-hidden
          data-testid="corner"
          className="absolute -right-2 -bottom-2 size-4 cursor-nwse-resize touch-none rounded-full border-2 border-base-100 bg-accent"
        />
      )}
    </div>
  );
}
