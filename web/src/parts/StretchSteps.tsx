import { ChevronLeft, ChevronRight, Minus, Plus } from 'lucide-react';
import { printNominal, printNumber } from '@lucky-needle/core/units';

interface Props {
  readonly fromS: number;
  readonly toS: number;
  readonly lengthS: number;
  /** The shortest stretch that can be looked at, s. */
  readonly leastS: number;
  /** What the plot's axis is told in. */
  readonly unit: 's' | 'min';
  /** A stretch, or null for all of it. */
  onZoom(stretch: { readonly fromS: number; readonly toS: number } | null): void;
}

/** A stretch about the one wanted that lies inside the recording and is not too short; null when it is all of it. */
export function fittedStretch(from: number, to: number, lengthS: number, leastS: number) {
  const span = Math.max(leastS, Math.min(lengthS, to - from));
  const start = Math.max(0, Math.min(lengthS - span, from));
  return span >= lengthS * 0.999 ? null : { fromS: start, toS: start + span };
}

const SIGN = { size: 14, 'aria-hidden': true } as const;

/** Buttons that look earlier, later, closer, farther, and at all of a recording. */
export function StretchSteps({ fromS, toS, lengthS, leastS, unit, onZoom }: Props) {
  const span = toS - fromS;
  const middle = (fromS + toS) / 2;
  const whole = span >= lengthS * 0.999;
  const zoomTo = (from: number, to: number) => onZoom(fittedStretch(from, to, lengthS, leastS));
  const steps = [
    ['Earlier', <ChevronLeft {...SIGN} />, fromS <= 0, () => zoomTo(fromS - span / 2, toS - span / 2)],
    ['Later', <ChevronRight {...SIGN} />, toS >= lengthS, () => zoomTo(fromS + span / 2, toS + span / 2)],
    [
      'Zoom in',
      <Plus {...SIGN} />,
      span <= 1.01 * leastS,
      () => zoomTo(middle - span / 8, middle + span / 8),
    ],
    ['Zoom out', <Minus {...SIGN} />, whole, () => zoomTo(middle - 2 * span, middle + 2 * span)],
    ['Whole run', 'all', whole, () => onZoom(null)],
  ] as const;
  const scale = unit === 'min' ? 60 : 1;
  const decimals = Math.max(0, Math.min(6, 2 - Math.floor(Math.log10(span / scale || 1))));
  return (
    <div role="group" aria-label="Section" className="flex items-center gap-1">
      <span className="num muted mr-1 text-xs whitespace-nowrap">
        {whole
          ? `all ${printNominal(lengthS / scale, 3)}`
          : `${printNumber(fromS / scale, decimals)} to ${printNumber(toS / scale, decimals)}`}{' '}
        {unit}
      </span>
      {steps.map(([label, sign, disabled, onClick]) => (
        <button
          key={label}
          type="button"
          className="btn btn-xs min-w-7"
          aria-label={label}
          title={label}
          disabled={disabled}
          onClick={onClick}
        >
          {sign}
        </button>
      ))}
    </div>
  );
}
