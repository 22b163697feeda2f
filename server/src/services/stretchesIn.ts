import type {
  Recording,
  ShapeAnswer,
  ShapeBody,
  StepsAnswer,
  StepsBody,
  LookLine,
} from '@lucky-needle/core/model';
import { stretchShape } from '@lucky-needle/core/study';
import { loadStepFinder, steadyRule, StepSums, type LoadStep, type StepSum } from '@lucky-needle/core/trial';
import { ProblemError } from '../http/problem.ts';
import type { RecordingReadings as Views, Stretch } from '../readings/recordingReadings.ts';
import { channelOf, runnable, stretchOf, unitOf } from './lookLines.ts';

/** Readings that are held at once for a spectrum or for the noise of a line, at the most. */
const MOST_HELD = 2_000_000;
/** Steps that are told, at the most. */
const MOST_STEPS = 500;

/** What the readings of a stretch of a run are like, beyond a curve. */
export function stretchesIn(readings: Views, recordingOf: (id: string) => Promise<Recording>) {
  /** Readings of a stretch, held whole; of more than can be held those from its begin, or nothing. */
  async function held(recording: Recording, line: LookLine, stretch: Stretch | null, isPartEnough: boolean) {
    const [times, values]: [number[], number[]] = [[], []];
    let isPart = false;
    await runnable(() =>
      readings.each(recording, channelOf(line), stretch, (t, v) => {
        if (times.length === MOST_HELD) isPart = true;
        else {
          times.push(t);
          values.push(v);
        }
      }),
    );
    if (isPart && !isPartEnough)
      throw unfit(
        'Section too long',
        `The section has more than ${MOST_HELD.toLocaleString('en')} readings.`,
        'Select a shorter section.',
      );
    return { times: Float64Array.from(times), values: Float64Array.from(values) };
  }

  return {
    async shape(id: string, { line, ...body }: ShapeBody): Promise<ShapeAnswer> {
      const recording = await recordingOf(id);
      const samples = await held(recording, line, stretchOf(recording, body), false);
      const shape = stretchShape(samples, unitOf(recording, channelOf(line)));
      if (typeof shape === 'string') throw unfit('Section too short', shape, 'Select a longer section.');
      return {
        facts: [...shape.facts],
        plots: shape.plots.map((plot) => ({
          ...plot,
          series: plot.series.map((s) => ({ ...s, x: [...s.x], y: [...s.y] })),
          allowed: null,
        })),
      };
    },

    async steps(id: string, { lines, rule, ...body }: StepsBody): Promise<StepsAnswer> {
      const recording = await recordingOf(id);
      const stretch = stretchOf(recording, body);
      const lead = lines[0]!;
      const proposed = rule
        ? { rule, why: '' }
        : await held(recording, lead, stretch, true).then(({ times, values }) =>
            steadyRule(times, values, unitOf(recording, channelOf(lead))),
          );
      if (typeof proposed === 'string')
        throw unfit('Section too short', proposed, 'Select a longer section.');
      const steps: LoadStep[] = [];
      let count = 0;
      const finder = loadStepFinder(proposed.rule, (step) => {
        count++;
        if (steps.length < MOST_STEPS) steps.push(step);
      });
      await runnable(() => readings.each(recording, channelOf(lead), stretch, (t, v) => finder.push(t, v)));
      finder.finish();
      const channels: { id: string; sums: readonly StepSum[] }[] = [];
      for (const line of steps.length > 0 ? lines : []) {
        const of = new StepSums(steps);
        await runnable(() => readings.each(recording, channelOf(line), stretch, (t, v) => of.push(t, v)));
        of.finish();
        channels.push({ id: line.id, sums: of.sums });
      }
      return {
        ...proposed,
        count,
        steps: steps.map((step, k) => ({
          ...step,
          channels: channels.map(({ id: channelId, sums }) => {
            const { mean, sd, n } = sums[k]!;
            return { id: channelId, mean: numberOrNull(mean), sd: numberOrNull(sd), n };
          }),
        })),
      };
    },
  };
}

const unfit = (title: string, detail: string, wayOut: string) =>
  new ProblemError(422, 'unfit-stretch', title, detail, wayOut);

const numberOrNull = (value: number): number | null => (Number.isFinite(value) ? value : null);
