import {
  ChartNoAxesColumn,
  ChartNoAxesCombined,
  Compass,
  Gauge,
  Hash,
  MoveHorizontal,
  RectangleHorizontal,
  Rows3,
  SquareStack,
  Timer,
  TrendingUp,
  Type,
  type LucideIcon,
} from 'lucide-react';
import { FACE_WIDGETS, type FaceWidgetKind } from '@lucky-needle/core/face';

const ICONS: Readonly<Record<string, LucideIcon>> = {
  figure: Hash,
  row: Rows3,
  dial: Gauge,
  bar: RectangleHorizontal,
  trend: ChartNoAxesCombined,
  rose: Compass,
  peak: TrendingUp,
  extremes: MoveHorizontal,
  stopwatch: Timer,
  spectrum: ChartNoAxesColumn,
  states: SquareStack,
  label: Type,
};

interface Props {
  /** Why a kind cannot be used here; null where it can. */
  refused(kind: FaceWidgetKind): string | null;
  onAdd(kind: FaceWidgetKind): void;
}

/** What can be put on a face. */
export function WidgetPalette({ refused, onAdd }: Props) {
  return (
    <section aria-label="Items to add" className="grid grid-cols-2 gap-2 sm:grid-cols-4">
      {FACE_WIDGETS.map((kind) => {
        const why = refused(kind);
        const Icon = ICONS[kind.kind] ?? Hash;
        return (
          <button
            key={kind.kind}
            type="button"
            className="btn h-auto min-h-11 justify-start gap-2 bg-base-100 px-3 py-2 text-left text-sm font-semibold disabled:text-base-content/45"
            disabled={why !== null}
            title={why ?? kind.summary}
            onClick={() => onAdd(kind)}
          >
            <Icon className="size-4 shrink-0 text-primary" aria-hidden />
            {kind.title}
          </button>
        );
      })}
    </section>
  );
}
