import { printNumber, decimalsFor } from '@lucky-needle/core/units';

interface Props {
  error: number;
  /** Expanded, k = 2. */
  uncertainty: number;
  tolerance: number;
  symbol: string;
}

const WIDTH = 300;
const HEIGHT = 62;

/** A ruled scale: tolerance band in green, the needle at the error, its uncertainty as a soft bar. */
export function ToleranceScale({ error, uncertainty, tolerance, symbol }: Props) {
  const reach = Math.max(1.5 * tolerance, 1.12 * (Math.abs(error) + uncertainty));
  const x = (v: number) => WIDTH / 2 + (v / reach) * (WIDTH / 2 - 10);
  const minor = niceStep(reach / 10);
  const ticks = Array.from(
    { length: 2 * Math.floor(reach / minor) + 1 },
    (_, i) => (i - Math.floor(reach / minor)) * minor,
  );
  const decimals = decimalsFor(uncertainty || tolerance / 10);
  const text = `Error ${printNumber(error, decimals, true)} ±${printNumber(uncertainty, decimals)} ${symbol}; tolerance ±${tolerance} ${symbol}.`;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={text} className="w-full max-w-xs">
      <rect
        x={x(-tolerance)}
        y={8}
        width={x(tolerance) - x(-tolerance)}
        height={26}
        className="fill-success/20"
      />
      <line
        x1={x(-tolerance)}
        x2={x(-tolerance)}
        y1={8}
        y2={34}
        className="stroke-success"
        strokeWidth={1.2}
      />
      <line x1={x(tolerance)} x2={x(tolerance)} y1={8} y2={34} className="stroke-success" strokeWidth={1.2} />
      <line x1={8} x2={WIDTH - 8} y1={34} y2={34} className="stroke-base-content/60" />
      {ticks.map((v) => {
        const major = Math.abs(v / minor) % 5 < 0.01 || Math.abs((Math.abs(v / minor) % 5) - 5) < 0.01;
        return (
          <line
            key={v}
            x1={x(v)}
            x2={x(v)}
            y1={34}
            y2={major ? 24 : 29}
            className="stroke-base-content/50"
            strokeWidth={major ? 1.2 : 0.8}
          />
        );
      })}
      <rect
        x={x(error - uncertainty)}
        y={14}
        width={Math.max(2, x(error + uncertainty) - x(error - uncertainty))}
        height={8}
        rx={2}
        className="fill-accent/35"
      />
      <line x1={x(error)} x2={x(error)} y1={4} y2={40} className="stroke-accent" strokeWidth={2.4} />
      {[-tolerance, 0, tolerance].map((v) => (
        <text key={v} x={x(v)} y={54} textAnchor="middle" className="num fill-base-content/75 text-[11px]">
          {v === 0
            ? '0'
            : `${printNumber(v, decimalsFor(tolerance) ? 1 : 0, true)}${v > 0 ? ` ${symbol}` : ''}`}
        </text>
      ))}
    </svg>
  );
}

/** 1, 2 or 5 times a power of ten, at or above the given size. */
function niceStep(size: number): number {
  const power = 10 ** Math.floor(Math.log10(size));
  const lead = size / power;
  return (lead <= 1 ? 1 : lead <= 2 ? 2 : lead <= 5 ? 5 : 10) * power;
}
