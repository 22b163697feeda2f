/** Highest frequency of a waveform that samples at this rate keep apart from others: rate / 2.56. */
export const HEADROOM = 2.56;

/** Where a tone shows up after sampling: |f - round(f / rate) rate|, Hz. */
export function aliasHz(frequencyHz: number, sampleRateHz: number): number {
  return Math.abs(frequencyHz - Math.round(frequencyHz / sampleRateHz) * sampleRateHz);
}

/**
 * Worst captured fraction of a half-sine pulse's peak over all phases of sampling: cos(pi / (2 rate width)); 0 when the
 * samples are as far apart as the pulse is wide. For samples that are instants; a converter that averages loses more.
 */
export function worstPeakFraction(widthS: number, sampleRateHz: number): number {
  return widthS * sampleRateHz <= 1 ? 0 : Math.cos(Math.PI / (2 * sampleRateHz * widthS));
}

/** Samples a second for losing at most a fraction of a half-sine pulse's peak: pi / (2 width acos(1 - loss)). */
export function rateForPeak(widthS: number, loss: number): number {
  if (!(loss > 0 && loss < 1))
    throw new RangeError(`Enter an allowed loss above 0 and below 1; received ${loss}.`);
  return Math.PI / (2 * widthS * Math.acos(1 - loss));
}

/**
 * Standard uncertainty of an interval timed by two events, s. Without interpolation each event is late by 0 to one period
 * (rectangular); with it, noise over slope counts. The clock's error grows with the interval.
 */
export function timingUncertainty(
  sampleRateHz: number,
  durationS: number,
  clockPpm: number,
  interpolated?: { readonly noise: number; readonly slope: number },
): number {
  const event = interpolated
    ? interpolated.noise / Math.abs(interpolated.slope)
    : 1 / (sampleRateHz * Math.sqrt(12));
  return Math.hypot(event, event, (clockPpm * 1e-6 * durationS) / Math.sqrt(3));
}

/** Smallest step of a rate counted in a gate, in turns a minute: 60 / (marks gate). */
export const gateStepRpm = (marks: number, gateS: number) => 60 / (marks * gateS);

/** Smallest step of a rate by period, in turns a minute: rpm times tick times edges a second. */
export const periodStepRpm = (rpm: number, marks: number, tickS: number) =>
  rpm * tickS * ((rpm / 60) * marks);

/** Turns a minute above which counting in a gate is finer than timing a period. */
export function gateBeatsPeriodRpm(marks: number, gateS: number, tickS: number): number {
  // rpm^2 marks tick / 60 = 60 / (marks gate)
  return Math.sqrt(3600 / (marks * marks * gateS * tickS));
}
