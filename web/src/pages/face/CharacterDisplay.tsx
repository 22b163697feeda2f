import type { ReactNode } from 'react';
import type { AlarmOutputs } from '@lucky-needle/core/alarm';
import type { FaceCell } from '@lucky-needle/core/face';
import { DisplayFrame } from './DisplayFrame.tsx';

/** The display as it would look: one cell a character, big figures drawn from its programmable cells. */
export function CharacterDisplay({
  cells,
  spoken,
  outputs,
  over,
  below,
  fills = false,
}: {
  cells: readonly (readonly FaceCell[])[];
  /** What the face reads out. */
  spoken: string;
  outputs: AlarmOutputs | null;
  over?: ReactNode;
  below?: ReactNode;
  fills?: boolean;
}) {
  const columns = cells[0]!.length;
  return (
    <DisplayFrame
      spoken={spoken}
      caption={`${columns} × ${cells.length} characters, display preview`}
      outputs={outputs}
      below={below}
      fills={fills}
    >
      <div
        data-testid="display"
        data-spoken={spoken}
        className={`mx-auto rounded-sm border-4 border-[#0a1f1e] bg-[#c9d6c2] p-[1.4%] text-[#12231d] ${fills ? '' : 'w-full max-w-3xl'}`}
        style={fills ? { width: filling(columns, cells.length) } : {}}
      >
        <div
          className="relative grid [container-type:inline-size]"
          style={{ gridTemplateColumns: `repeat(${columns}, 1fr)` }}
        >
          {cells.flatMap((row, r) =>
            row.map((cell, c) => <Cell key={`${r}-${c}`} cell={cell} sizeCqw={(100 * LETTER) / columns} />),
          )}
          {over}
        </div>
      </div>
    </DisplayFrame>
  );
}

/** Height of a letter, as a share of its cell's width. */
const LETTER = 0.95;
/** A cell is five wide and eight high. */
const filling = (columns: number, rows: number) =>
  `min(calc(100cqw - 24px), calc((100cqh - 24px) * ${(5 * columns) / (8 * rows)}))`;

function Cell({ cell, sizeCqw }: { cell: FaceCell; sizeCqw: number }) {
  const bar = 'absolute inset-x-0 bg-current';
  return (
    <span
      className="num relative flex aspect-[5/8] items-center justify-center border border-[#c9d6c2] bg-[#bfcdb8] leading-none"
      style={{ fontSize: `${sizeCqw}cqw` }}
      aria-hidden
    >
      {cell.shape === null && cell.text}
      {cell.shape === 'F' && <span className={`${bar} inset-y-0`} />}
      {cell.shape === 'U' && <span className={`${bar} top-0 h-[38%]`} />}
      {cell.shape === 'L' && <span className={`${bar} bottom-0 h-[38%]`} />}
    </span>
  );
}
