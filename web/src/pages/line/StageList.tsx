import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import type { ReactNode } from 'react';
import { stageKind } from '@lucky-needle/core/line';
import type { StageSpec } from '@lucky-needle/core/model';

interface Props {
  readonly stages: readonly StageSpec[];
  onOrder(stages: StageSpec[]): void;
  readonly children: ReactNode;
}

/** Lets stages be dragged by their handle, with the pointer or with Space and the arrows. */
export function StageList({ stages, onOrder, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const moved = ({ active, over }: DragEndEvent) => {
    const from = stages.findIndex((s) => s.id === active.id);
    const to = stages.findIndex((s) => s.id === over?.id);
    if (from >= 0 && to >= 0 && from !== to) onOrder(arrayMove([...stages], from, to));
  };
  const titleOf = (id: string | number) => {
    const kind = stages.find((s) => s.id === id)?.kind ?? '';
    return stageKind(kind)?.title ?? kind;
  };
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${titleOf(active.id)} picked up.`,
    onDragOver: ({ active, over }) =>
      over
        ? `${titleOf(active.id)} is over ${titleOf(over.id)}.`
        : `${titleOf(active.id)} is outside the list.`,
    onDragEnd: ({ active }) => `${titleOf(active.id)} dropped.`,
    onDragCancel: ({ active }) => `Cancelled: ${titleOf(active.id)} is back in its place.`,
  };
  return (
    <DndContext
      accessibility={{ announcements }}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={moved}
    >
      <SortableContext items={stages.map((s) => s.id)} strategy={verticalListSortingStrategy}>
        <ol className="grid grid-cols-[minmax(0,1fr)] gap-2">{children}</ol>
      </SortableContext>
    </DndContext>
  );
}
