interface Props {
  /** Share of the limit to spare, negative when short. */
  readonly margin: number;
}

const WIDTH = 72;

/** A small ruled scale: the limit in the middle, what is to spare on its right in green, the needle at the margin. */
export function MarginScale({ margin }: Props) {
  if (!Number.isFinite(margin)) return null;
  const shown = Math.max(-1, Math.min(1, margin));
  const x = WIDTH / 2 + shown * (WIDTH / 2 - 3);
  const percent =
    Math.abs(margin) >= 10
      ? '×' + Math.round(Math.abs(margin) + 1)
      : `${Math.round(Math.abs(margin) * 100)} %`;
  const words = margin >= 0 ? `${percent} to spare` : `${percent} short`;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 12`}
      className="h-3 w-18 shrink-0"
      role="img"
      aria-label={words}
      data-margin={margin.toFixed(3)}
    >
      <title>{words}</title>
      <rect x={WIDTH / 2} y={2} width={WIDTH / 2} height={6} className="fill-success/25" />
      <line x1={0} x2={WIDTH} y1={8} y2={8} className="stroke-base-content/50" strokeWidth={1} />
      {[-1, -0.5, 0, 0.5, 1].map((v) => (
        <line
          key={v}
          x1={WIDTH / 2 + v * (WIDTH / 2 - 0.5)}
          x2={WIDTH / 2 + v * (WIDTH / 2 - 0.5)}
          y1={v === 0 ? 1 : 5}
          y2={8}
          className={v === 0 ? 'stroke-success' : 'stroke-base-content/50'}
          strokeWidth={1}
        />
      ))}
      <line x1={x} x2={x} y1={0} y2={11} className="stroke-accent" strokeWidth={2} />
    </svg>
  );
}
