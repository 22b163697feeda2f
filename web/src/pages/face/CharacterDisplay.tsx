import type { FaceCell } from '@lucky-needle/core/face';

/** The display as it would look: one cell a character, big figures drawn from its programmable cells. */
export function CharacterDisplay({
  cells,
  spoken,
}: {
  cells: readonly (readonly FaceCell[])[];
  /** What the face reads out. */
  spoken: string;
}) {
  const columns = cells[0]!.length;
  return (
    <figure
      className="m-0 rounded-box border border-base-300 bg-neutral p-4 sm:p-6"
      aria-label={`Display: ${spoken}`}
    >
      <div
        data-testid="display"
        data-spoken={spoken}
        className="mx-auto grid w-full max-w-3xl gap-[0.28%] rounded-sm border-4 border-[#0a1f1e] bg-[#c9d6c2] p-[1.4%] text-[#12231d]"
        style={{ gridTemplateColumns: `repeat(${columns}, 1fr)` }}
      >
        {cells.flatMap((row, r) => row.map((cell, c) => <Cell key={`${r}-${c}`} cell={cell} />))}
      </div>
      <figcaption className="mt-2 text-center text-xs text-neutral-content/80">
        {columns} × {cells.length} characters, as the gadget would show it
      </figcaption>
    </figure>
  );
}

function Cell({ cell }: { cell: FaceCell }) {
  const bar = 'absolute inset-x-0 bg-current';
  return (
    <span
      className="num relative flex aspect-[5/8] items-center justify-center bg-[#bfcdb8] text-[clamp(0.6rem,2.4vw,1.45rem)] leading-none"
      aria-hidden
    >
      {cell.shape === null && cell.text}
      {cell.shape === 'F' && <span className={`${bar} inset-y-0`} />}
      {cell.shape === 'U' && <span className={`${bar} top-0 h-[38%]`} />}
      {cell.shape === 'L' && <span className={`${bar} bottom-0 h-[38%]`} />}
    </span>
  );
}
