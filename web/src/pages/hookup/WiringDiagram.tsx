import '@xyflow/react/dist/base.css';
import {
  Background,
  Controls,
  Handle,
  Position,
  ReactFlow,
  type Edge,
  type Node,
  type NodeProps,
} from '@xyflow/react';
import { useMemo } from 'react';
import { boardOf, wiredParts, type GadgetPlan, type Wire } from '@lucky-needle/core/plan';

interface Box extends Record<string, unknown> {
  readonly title: string;
  readonly under: string;
  /** Connection points, top to bottom. */
  readonly left: readonly string[];
  readonly right: readonly string[];
  readonly tone: 'board' | 'part' | 'rail';
}

const ROW = 20;
const HEAD = 44;
const heightOf = (box: Box) => HEAD + ROW * Math.max(box.left.length, box.right.length, 1) + 6;

const NODE_TYPES = { box: BoxNode };

const INK: Record<Wire['kind'], string> = {
  signal: 'var(--color-primary)',
  bus: 'var(--color-info)',
  power: 'var(--color-secondary)',
  ground: 'color-mix(in srgb, var(--color-base-content) 45%, transparent)',
};

/** Board in the middle, sensors left, what shows and sounds right, rails below; drawn to be printed. */
export function WiringDiagram({ plan, wires }: { plan: GadgetPlan; wires: readonly Wire[] }) {
  const { nodes, edges, width, height } = useMemo(() => layOut(plan, wires), [plan, wires]);
  if (nodes.length <= 1)
    return <p className="muted mt-2 text-sm">Nothing to draw yet: pick a sensor and a board.</p>;
  return (
    <>
      <div style={{ aspectRatio: `${width} / ${height}` }} className="wiring mt-2 max-h-190 min-h-60 w-full">
        <ReactFlow
          key={nodes.map((n) => n.id).join()}
          defaultNodes={nodes}
          defaultEdges={edges}
          nodeTypes={NODE_TYPES}
          fitView
          fitViewOptions={{ padding: 0.06, maxZoom: 1.1 }}
          nodesConnectable={false}
          edgesFocusable={false}
          zoomOnScroll={false}
          preventScrolling={false}
          minZoom={0.2}
          proOptions={{ hideAttribution: true }}
          aria-label="Wiring diagram"
        >
          <Background
            gap={20}
            size={1}
            color="color-mix(in srgb, var(--color-base-content) 14%, transparent)"
          />
          <Controls
            showInteractive={false}
            position="bottom-right"
            orientation="horizontal"
            className="no-print"
          />
        </ReactFlow>
      </div>
      <p className="muted mt-2 flex flex-wrap gap-x-4 text-xs">
        {(['signal', 'bus', 'power', 'ground'] as const).map((kind) => (
          <span key={kind} className="flex items-center gap-1.5">
            <svg width="26" height="6" aria-hidden>
              <line
                x1="0"
                x2="26"
                y1="3"
                y2="3"
                stroke={INK[kind]}
                strokeWidth="2"
                strokeDasharray={kind === 'bus' ? '6 3' : kind === 'ground' ? '2 3' : undefined}
              />
            </svg>
            {kind}
          </span>
        ))}
        <span>Drag boxes to move them. The table below lists the same wires.</span>
      </p>
    </>
  );
}

function BoxNode({ data }: NodeProps<Node<Box>>) {
  const { title, under, left, right, tone } = data;
  const frame = {
    board: 'border-neutral bg-neutral text-neutral-content',
    part: 'border-base-content/40 bg-base-100',
    rail: 'border-secondary/60 bg-secondary/10',
  }[tone];
  return (
    <div className={`w-52 rounded-box border ${frame} text-[11px]`} style={{ height: heightOf(data) }}>
      <p className="truncate px-2 pt-1.5 text-xs font-semibold" title={title}>
        {title}
      </p>
      <p className="truncate px-2 opacity-75">{under}</p>
      {(['left', 'right'] as const).map((side) =>
        (side === 'left' ? left : right).map((name, i) => (
          <span key={side + name}>
            <Handle
              id={`${side}:${name}`}
              type={side === 'left' ? 'target' : 'source'}
              position={side === 'left' ? Position.Left : Position.Right}
              style={{ top: HEAD + ROW * (i + 0.5), background: 'var(--color-secondary)' }}
              isConnectable={false}
            />
            <span
              className={`num absolute ${side === 'left' ? 'left-2' : 'right-2'}`}
              style={{ top: HEAD + ROW * i + 2 }}
            >
              {name}
            </span>
          </span>
        )),
      )}
    </div>
  );
}

/** Places the boxes in columns: converted sensors, sensors and converters, the board, displays and sounders; rails under the board. */
function layOut(
  plan: GadgetPlan,
  wires: readonly Wire[],
): { nodes: Node<Box>[]; edges: Edge[]; width: number; height: number } {
  const board = boardOf(plan);
  const wired = wiredParts(plan);
  const isRight = (id: string) => id === 'display' || id === 'sounder' || id.startsWith('extra-');
  const column = (id: string) => {
    const part = wired.find((w) => w.id === id)!;
    return part.into !== null ? 0 : isRight(id) ? 3 : 1;
  };
  const toBoard = wires.filter((w) => w.toId === 'board');
  const pinsOn = (right: boolean) => [
    ...new Set(toBoard.filter((w) => isRight(w.partId) === right).map((w) => w.to)),
  ];
  const boxes = new Map<string, { box: Box; column: number }>();
  for (const w of wired) {
    const own = wires.filter((q) => q.partId === w.id);
    const leaves = own.map((q) => q.at).filter((at, i, all) => all.indexOf(at) === i);
    const inputs = wires.filter((q) => q.toId === w.id).map((q) => `${q.partTitle} ${q.at}`);
    const right = isRight(w.id);
    boxes.set(w.id, {
      column: column(w.id),
      box: {
        title: w.title,
        under: w.part.bus === 'none' ? w.part.kind : `${w.part.kind}, ${w.part.bus}`,
        left: right ? leaves : inputs.map((_, i) => `in ${i + 1}`),
        right: right ? [] : leaves,
        tone: 'part',
      },
    });
  }
  const rails = [...new Set(wires.filter((w) => w.kind === 'power').map((w) => w.to))];
  boxes.set('board', {
    column: 2,
    box: {
      title: board.title,
      under: `${board.logicV} V logic`,
      left: pinsOn(false),
      right: pinsOn(true),
      tone: 'board',
    },
  });
  if (rails.length > 0)
    boxes.set('rails', {
      column: 2,
      box: {
        title: plan.supply?.title ?? 'Supply',
        under: 'rails and ground',
        left: [...rails, 'ground'],
        right: [...rails.map((r) => `${r} `), 'ground '],
        tone: 'rail',
      },
    });
  const present = [...new Set([...boxes.values()].map((b) => b.column))].sort();
  const x = (c: number) => present.indexOf(c) * 330;
  const bottom = new Map<number, number>();
  const nodes = [...boxes].map(([id, { box, column: c }]): Node<Box> => {
    const y = bottom.get(c) ?? 0;
    bottom.set(c, y + heightOf(box) + 24);
    return { id, type: 'box', position: { x: x(c), y }, data: box, style: { width: 208 } };
  });
  const seen = new Map<string, number>();
  const nets = [false, true].map((right) => [
    ...new Set(wires.filter((w) => isRight(w.partId) === right && w.toId !== '').map(netOf)),
  ]);
  const bendOf = (wire: Wire, right: boolean) => {
    const all = nets[right ? 1 : 0]!;
    return 0.12 + (0.76 * (all.indexOf(netOf(wire)) + 0.5)) / all.length;
  };
  const edges = wires.flatMap((w): Edge[] => {
    const right = isRight(w.partId);
    const style = {
      stroke: INK[w.kind],
      strokeWidth: 1.6,
      ...(w.kind === 'bus'
        ? { strokeDasharray: '6 3' }
        : w.kind === 'ground'
          ? { strokeDasharray: '2 3' }
          : {}),
    };
    if (w.toId === '') return [];
    const end =
      w.kind === 'power' || w.kind === 'ground'
        ? { id: 'rails', point: right ? `${w.to} ` : w.to }
        : w.toId === 'board'
          ? { id: 'board', point: w.to }
          : { id: w.toId, point: nextInput(seen, w.toId) };
    // Wires to one point bend together as a net, those to another beside them.
    const base = {
      id: w.id,
      type: 'smoothstep',
      style,
      pathOptions: { stepPosition: bendOf(w, right), borderRadius: 3 },
    };
    return right
      ? [
          {
            ...base,
            source: end.id,
            sourceHandle: `right:${end.point}`,
            target: w.partId,
            targetHandle: `left:${w.at}`,
          },
        ]
      : [
          {
            ...base,
            source: w.partId,
            sourceHandle: `right:${w.at}`,
            target: end.id,
            targetHandle: `left:${end.point}`,
          },
        ];
  });
  // Room around it for the controls and the ends of the wires.
  return { nodes, edges, width: x(present.at(-1)!) + 208 + 40, height: Math.max(...bottom.values()) + 40 };
}

/** Wires that are joined: those to one pin, one rail, ground. */
const netOf = (w: Wire) =>
  w.kind === 'power' || w.kind === 'ground' || w.toId === 'board' ? `${w.kind} ${w.to}` : w.id;

function nextInput(seen: Map<string, number>, id: string): string {
  const n = (seen.get(id) ?? 0) + 1;
  seen.set(id, n);
  return `in ${n}`;
}
