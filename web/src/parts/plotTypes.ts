export type PlotInk =
  'fit' | 'muted' | 'reference' | 'check' | 'needle' | 'trace' | 'trace2' | 'trace3' | 'error';

export interface PlotSeries {
  readonly label: string;
  readonly x: ArrayLike<number>;
  readonly y: ArrayLike<number>;
  readonly ink: PlotInk;
  readonly style: 'line' | 'dashed' | 'diamonds' | 'rings' | 'cross' | 'band-low' | 'band-high' | 'whiskers';
}

export interface PlotAxis {
  readonly label: string;
  readonly unit: string;
  readonly min?: number | undefined;
  readonly max?: number | undefined;
  /** Room for an ordinate, px at least: plots that stand under each other begin at the same place with it. */
  readonly leastWidth?: number | undefined;
  /** Linear when not given; of a logarithmic one only values above 0 are drawn. */
  readonly scale?: 'linear' | 'logarithmic' | undefined;
  /** Distance of the ticks; chosen by the chart when not given. */
  readonly step?: number | undefined;
  /** What whole numbers from 1 on are called. */
  readonly names?: readonly string[] | undefined;
}
