import { printWithUncertainty } from '@lucky-needle/core/units';

/** A value with what it is good to, k = 2. */
export function Quantity({
  value,
  u,
  unit,
}: {
  value: number;
  u: number;
  unit: Parameters<typeof printWithUncertainty>[2];
}) {
  const printed = printWithUncertainty(value, u, unit);
  return (
    <span className="num font-semibold">
      {printed.value} <span className="muted font-normal">±{printed.uncertainty}</span> {printed.symbol}
    </span>
  );
}
