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
}: {
  cells: readonly (readonly FaceCell[])[];
  /** What the face reads out. */
  spoken: string;
  outputs: AlarmOutputs | null;
  over?: ReactNode;
  below?: ReactNode;
}) {
  const columns = cells[0]!.length;
  return (
    <DisplayFrame
      spoken={spoken}
      caption={`${columns} × ${cells.length} characters, as the gadget would show it`}
      outputs={outputs}
      below={below}
    >
      <div
        data-testid="display"
        data-spoken={spoken}
        className="mx-auto w-full max-w-3xl rounded-sm border-4 border-[#0a1f1e] bg-[#c9d6c2] p-[1.4%] text-[#12231d]"
      >
        <div className="relative grid" style={{ gridTemplateColumns: `repeat(${columns}, 1fr)` }}>
          {cells.flatMap((row, r) => row.map((cell, c) => <Cell key={`${r}-${c}`} cell={cell} />))}
          {over}
        </div>
      </div>
    </DisplayFrame>
  );
}

function Cell({ cell }: { cell: FaceCell }) {
  const bar = 'absolute inset-x-0 bg-current';
  return (
    <span
      className="num relative flex aspect-[5/8] items-center justify-center border border-[#c9d6c2] bg-[#bfcdb8] text-[clamp(0.6rem,2.4vw,1.45rem)] leading-none"
      aria-hidden
    >
      {cell.shape === null && cell.text}
      {cell.shape === 'F' && <span className={`${bar} inset-y-0`} />}
      {cell.shape === 'U' && <span className={`${bar} top-0 h-[38%]`} />}
      {cell.shape === 'L' && <span className={`${bar} bottom-0 h-[38%]`} />}
    </span>
  );
}
