import { useEffect, useMemo, useRef, useState } from 'react';
import {
  Chart,
  Filler,
  LinearScale,
  LogarithmicScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartDataset,
  type ChartOptions,
  type PointStyle,
} from 'chart.js';
import annotation, { type AnnotationOptions } from 'chartjs-plugin-annotation';
import zoom from 'chartjs-plugin-zoom';
import { Line } from 'react-chartjs-2';
import { themeColor, useShownTheme } from '../app/theme.ts';
import { handOnAxis, type HandOnAxis } from './handOnAxis.ts';
import { PlotTable } from './PlotTable.tsx';
import type { PlotAxis, PlotInk, PlotSeries } from './plotTypes.ts';
import { isNamedOnLog, placeText, tickText } from './tickText.ts';

Chart.register(
  LineController,
  LineElement,
  PointElement,
  LinearScale,
  LogarithmicScale,
  Filler,
  Tooltip,
  annotation,
  zoom,
);

const INK: Record<PlotInk, string> = {
  fit: 'primary',
  muted: 'base-content',
  reference: 'secondary',
  check: 'success',
  needle: 'accent',
  trace: 'primary',
  trace2: 'info',
  trace3: 'secondary',
  error: 'error',
};

export interface PlotBand {
  readonly from: number;
  readonly to: number;
  readonly axis: 'x' | 'y';
  readonly ink: 'tolerance' | 'window' | 'caution' | 'limit';
}

interface Props {
  /** Said to screen readers: what the plot shows. */
  readonly title: string;
  readonly series: readonly PlotSeries[];
  readonly x: PlotAxis;
  readonly y: PlotAxis;
  readonly bands?: readonly PlotBand[];
  /** Moments worth finding again, by name. */
  readonly marks?: readonly { readonly at: number; readonly text: string }[] | undefined;
  /** A vertical red line at this abscissa: where the needle is now. */
  readonly needleAt?: number | null;
  readonly height?: number;
  /** Drawn small and bare, as in a card. */
  readonly bare?: boolean;
  /**
   * Called with the stretch of the abscissa that is wanted: dragged over, moved to with Shift or a finger, or zoomed to with
   * Ctrl and the wheel or two fingers. The curves follow at once with the points they have. Without it nothing moves.
   */
  readonly onSelect?: ((from: number, to: number) => void) | undefined;
  /** The ends of the abscissa, beyond which there is nothing, and the shortest stretch that means anything. */
  readonly reach?: { readonly from: number; readonly to: number; readonly least: number } | undefined;
}

/** So long after the last step of a wheel it has come to rest, ms. */
const REST_MS = 120;
const NO_MARKS: NonNullable<Props['marks']> = [];

// A line chart, also where only points are drawn: it alone leaves out points beyond the ends when the pointer is near them.
/** One chart for every page: already reduced points in, axes with units, bands, the needle, and the numbers as a table. */
export function Plot({
  title,
  series,
  x,
  y,
  bands = [],
  marks = NO_MARKS,
  needleAt = null,
  height = 260,
  bare = false,
  onSelect,
  reach,
}: Props) {
  const theme = useShownTheme();
  const chart = useRef<Chart<'line'> | null>(null);
  const [tabled, setTabled] = useState(false);
  const newestSelect = useRef(onSelect);
  useEffect(() => {
    newestSelect.current = onSelect;
  }, [onSelect]);
  // One hand for as long as the plot stands: what is drawn changes while it moves.
  const [hand] = useState(() => handOnAxis(({ from, to }) => newestSelect.current?.(from, to), REST_MS));
  // The theme is a dependency because canvases take their colours when they are drawn.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const data = useMemo(() => ({ datasets: series.map(dataset) }), [series, theme]);
  const moves = onSelect !== undefined;
  const options = useMemo(
    () => optionsFor(x, y, bands, marks, needleAt, bare, moves ? hand : null, reach),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [x, y, bands, marks, needleAt, bare, hand, moves, reach, theme],
  );
  return (
    <figure className="group relative m-0" aria-label={title}>
      <div
        style={{ height }}
        className={`${tabled ? 'hidden' : 'relative'} ${onSelect ? '[&>canvas]:touch-pan-y!' : ''}`}
      >
        <Line ref={chart} data={data} options={options} aria-label={title} role="img" />
      </div>
      {tabled && <PlotTable series={series} x={x} y={y} />}
      {!bare && (
        <figcaption className="no-print flex justify-end gap-1 lg:pointer-events-none lg:absolute lg:top-0 lg:right-0 lg:rounded-field lg:bg-base-100/85 lg:opacity-0 lg:transition-opacity lg:group-focus-within:opacity-100 lg:group-hover:opacity-100 lg:[&>*]:pointer-events-auto">
          <button type="button" className="btn btn-ghost btn-xs" onClick={() => setTabled(!tabled)}>
            {tabled ? 'Show as plot' : 'Show as table'}
          </button>
          {!tabled && (
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => save(chart.current, title)}>
              Save image
            </button>
          )}
        </figcaption>
      )}
    </figure>
  );
}

function save(chart: Chart<'line'> | null, title: string): void {
  if (!chart) return;
  const link = document.createElement('a');
  link.href = chart.toBase64Image('image/png');
  link.download = `${title.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.png`;
  link.click();
}

function alpha(color: string, share: number): string {
  return `color-mix(in srgb, ${color} ${Math.round(share * 100)}%, transparent)`;
}

/** Canvases do not know color-mix in every browser, so hex colours get their alpha as two more digits. */
function faded(name: string, share: number): string {
  const color = themeColor(name);
  const hex = /^#[0-9a-f]{6}$/i.test(color);
  return hex
    ? color +
        Math.round(share * 255)
          .toString(16)
          .padStart(2, '0')
    : alpha(color, share);
}

/** How far a mark may stand over the edge, px. */
const MARK_ROOM = 8;

/** On a logarithmic axis marks at 1, 2 and 5 are enough, where there are some of them. */
function keepNamed(scale: { ticks: { value: number }[] }): void {
  const named = scale.ticks.filter(({ value }) => isNamedOnLog(value));
  if (named.length > 2) scale.ticks = named;
}

function dataset(series: PlotSeries): ChartDataset<'line'> {
  const color = series.ink === 'muted' ? faded('base-content', 0.55) : themeColor(INK[series.ink]);
  const points = Array.from({ length: series.x.length }, (_, i) => ({ x: series.x[i]!, y: series.y[i]! }));
  const lines = ['line', 'dashed', 'band-low', 'band-high', 'whiskers'].includes(series.style);
  const pointStyles: Record<string, PointStyle> = { diamonds: 'rectRot', rings: 'circle', cross: 'crossRot' };
  const band = series.style === 'band-low' || series.style === 'band-high';
  return {
    label: series.label,
    data: points,
    showLine: lines,
    // A mark at the edge stands whole.
    ...(lines ? {} : { clip: MARK_ROOM }),
    spanGaps: false,
    borderColor: band ? 'transparent' : color,
    backgroundColor: band ? faded(INK[series.ink], 0.14) : themeColor('base-100'),
    borderWidth: series.style === 'whiskers' ? 1.5 : lines ? (series.ink === 'muted' ? 1.1 : 1.8) : 2,
    borderDash: series.style === 'dashed' ? [4, 4] : [],
    pointRadius: lines ? 0 : series.style === 'diamonds' ? 6 : 5,
    pointHoverRadius: lines ? 3 : 7,
    pointStyle: pointStyles[series.style] ?? 'circle',
    pointBorderColor: color,
    fill: series.style === 'band-high' ? '-1' : false,
  };
}

function optionsFor(
  x: PlotAxis,
  y: PlotAxis,
  bands: readonly PlotBand[],
  marks: NonNullable<Props['marks']>,
  needleAt: number | null,
  bare: boolean,
  hand: HandOnAxis | null,
  reach: Props['reach'],
): ChartOptions<'line'> {
  const moves = hand !== null;
  const held = hand?.held();
  const text = faded('base-content', 0.72);
  const grid = faded('base-content', 0.12);
  const font = { family: '"JetBrains Mono Variable", monospace', size: 11 };
  const annotations: Record<string, AnnotationOptions> = {};
  bands.forEach((band, i) => {
    const ink = { tolerance: 'success', window: 'primary', caution: 'warning', limit: 'error' }[band.ink];
    annotations[`band${i}`] = {
      type: 'box',
      ...(band.axis === 'y' ? { yMin: band.from, yMax: band.to } : { xMin: band.from, xMax: band.to }),
      backgroundColor: faded(ink, 0.13),
      borderColor: faded(ink, 0.45),
      borderWidth: 1,
      drawTime: 'beforeDatasetsDraw',
    };
  });
  marks.forEach(({ at, text: name }, i) => {
    annotations[`mark${i}`] = {
      type: 'line',
      xMin: at,
      xMax: at,
      borderColor: themeColor('secondary'),
      borderWidth: 1,
      borderDash: [4, 3],
      label: {
        display: true,
        content: name,
        position: 'start',
        rotation: 'auto',
        backgroundColor: themeColor('base-100'),
        color: themeColor('secondary'),
        font: { family: '"Instrument Sans Variable", sans-serif', size: 11 },
        padding: 3,
      },
    };
  });
  if (needleAt !== null && Number.isFinite(needleAt)) {
    annotations['needle'] = {
      type: 'line',
      xMin: needleAt,
      xMax: needleAt,
      borderColor: themeColor('accent'),
      borderWidth: 2,
    };
  }
  const axis = (a: PlotAxis) => ({
    type: a.scale ?? ('linear' as const),
    display: !bare,
    ...(a.min === undefined ? {} : { min: a.min }),
    ...(a.max === undefined ? {} : { max: a.max }),
    grid: { color: grid },
    border: { color: grid },
    ...(a.scale === 'logarithmic' ? { afterBuildTicks: keepNamed } : {}),
    ...(a.leastWidth === undefined
      ? {}
      : {
          afterFit: (scale: { width: number }) => void (scale.width = Math.max(scale.width, a.leastWidth!)),
        }),
    ticks: {
      color: text,
      font,
      maxTicksLimit: a.step === undefined ? 9 : 20,
      autoSkip: a.step === undefined,
      ...(a.step === undefined ? {} : { stepSize: a.step }),
      includeBounds: false,
      callback: (v: number | string) => (a.names ? placeText(a, Number(v), 0) : tickText(Number(v))),
    },
    title: {
      display: !bare,
      text: a.unit ? `${a.label}, ${a.unit}` : a.label,
      color: text,
      font: { family: '"Instrument Sans Variable", sans-serif', size: 12 },
    },
  });
  return {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    normalized: true,
    interaction: { mode: 'nearest', intersect: false },
    scales: { x: axis(held ? { ...x, min: held.from, max: held.to } : x), y: axis(y) },
    plugins: {
      legend: { display: false },
      annotation: { annotations },
      zoom: {
        zoom: {
          mode: 'x',
          drag: {
            enabled: moves,
            backgroundColor: faded('primary', 0.15),
            borderColor: faded('primary', 0.6),
            borderWidth: 1,
          },
          wheel: { enabled: moves, modifierKey: 'ctrl', speed: 0.15 },
          pinch: { enabled: moves },
          ...(hand ? { onZoom: hand.zoomed } : {}),
        },
        pan: {
          enabled: moves,
          mode: 'x',
          modifierKey: 'shift',
          threshold: 4,
          ...(hand ? { onPan: hand.panned, onPanComplete: hand.panDone } : {}),
        },
        ...(reach ? { limits: { x: { min: reach.from, max: reach.to, minRange: reach.least } } } : {}),
      },
      tooltip: {
        enabled: !bare,
        callbacks: {
          title: () => '',
          label: (item) =>
            `${item.dataset.label}: ${placeText(y, item.parsed.y ?? 0, 5)} at ${placeText(x, item.parsed.x ?? 0, 5)}`,
        },
      },
    },
  };
}
