import type { Gadget, RunPlan } from '@lucky-needle/core/model';
import { readingUnit } from '@lucky-needle/core/plan';
import { REASON } from '@lucky-needle/core/line';
import { printNumber, UNITS } from '@lucky-needle/core/units';
import { notFound, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';
import type { recordingService } from './recordings.ts';

/** So late a run is still begun: beyond it the bench was off at its time. */
const LATE_MS = 60_000;
const DAY_MS = 86_400_000;
/** How often it is looked at. */
const TICK_MS = 1000;

type Recordings = Pick<ReturnType<typeof recordingService>, 'start' | 'stop'>;

/** Runs that begin and end by themselves, with no page open. */
export function runPlansService(bench: Bench, recordings: Recordings) {
  const { tables } = bench;
  /** Plans by gadget, as stored: looked at each second. */
  let known: Map<string, RunPlan> | null = null;
  let timer: NodeJS.Timeout | null = null;
  let turn: Promise<void> = Promise.resolve();

  async function plans(): Promise<Map<string, RunPlan>> {
    known ??= new Map((await tables.runPlans.list()).map(({ gadgetId, plan }) => [gadgetId, plan]));
    return known;
  }

  async function keep(gadgetId: string, plan: RunPlan | null): Promise<void> {
    if (plan) await tables.runPlans.set(gadgetId, plan);
    else await tables.runPlans.remove(gadgetId);
    const all = await plans();
    if (plan) all.set(gadgetId, plan);
    else all.delete(gadgetId);
    bench.changed(gadgetId, 'recordings');
  }

  async function begin(gadgetId: string, plan: RunPlan, nowMs: number): Promise<void> {
    const dueMs = Date.parse(plan.startAt!);
    // First what comes next: a run that cannot begin is not tried each second.
    await keep(gadgetId, followed(plan, nowMs));
    const say = async (text: string) => void (await tables.logbook.write(gadgetId, 'runs', text));
    const name = `${plan.name.trim() || 'Scheduled run'}, ${plan.startAt!.slice(0, 10)}`;
    if (nowMs - dueMs > LATE_MS)
      return say(`Scheduled run "${name}" did not start: the server was not running at that time.`);
    if (bench.links.of(gadgetId)?.status.state !== 'up')
      return say(`Scheduled run "${name}" did not start: there was no data from the link.`);
    try {
      await recordings.start(gadgetId, name);
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      await say(`Scheduled run "${name}" did not start: ${error.problem.detail}`);
    }
  }

  async function end(gadgetId: string, plan: RunPlan, nowMs: number): Promise<void> {
    const runner = bench.links.of(gadgetId);
    const { recorder } = runner ?? {};
    if (!runner || !recorder) return;
    const why = whyOver(plan, {
      // A gadget whose clock runs faster, as a simulated one may, is over by its own time.
      lengthS: Math.max(recorder.lengthS, (nowMs - Date.parse(recorder.recording.startedAt)) / 1000),
      newest: plan.stopAt ? runner.live.newest(plan.stopAt.channelId) : null,
    });
    if (why === null) return;
    const { id, name } = recorder.recording;
    try {
      await recordings.stop(id);
      await tables.logbook.write(gadgetId, 'runs', `Run "${name}" was stopped by the schedule: ${why}.`);
    } catch (error) {
      // What cannot be written now is tried again with the next look.
      if (!(error instanceof ProblemError)) throw error;
    }
  }

  async function look(): Promise<void> {
    const nowMs = Date.parse(bench.now());
    for (const [gadgetId, plan] of [...(await plans())]) {
      if (plan.startAt !== null && Date.parse(plan.startAt) <= nowMs) await begin(gadgetId, plan, nowMs);
      else await end(gadgetId, plan, nowMs);
    }
  }

  return {
    async find(gadgetId: string): Promise<RunPlan | null> {
      return tables.runPlans.find(gadgetId);
    },

    async set(gadgetId: string, plan: RunPlan): Promise<RunPlan> {
      const gadget = await tables.gadgets.find(gadgetId);
      if (!gadget) throw notFound('gadget', gadgetId);
      const fault = faultOf(plan, gadget, Date.parse(bench.now()));
      if (fault) throw new ProblemError(422, 'invalid-plan', 'Invalid schedule', ...fault);
      await keep(gadgetId, plan);
      await tables.logbook.write(gadgetId, 'runs', `Runs scheduled: ${inWords(plan, gadget)}.`);
      return plan;
    },

    async remove(gadgetId: string): Promise<void> {
      if (!(await tables.runPlans.find(gadgetId))) throw notFound('schedule', gadgetId);
      await keep(gadgetId, null);
      await tables.logbook.write(gadgetId, 'runs', 'Schedule deleted.');
    },

    /** Looks once at all plans; one look at a time. */
    look(): Promise<void> {
      turn = turn.then(look);
      return turn;
    },

    /** Plans were changed behind its back, as by a workspace that was brought in. */
    forget(): void {
      known = null;
    },

    /** Looks each second from now on. */
    watch(failed: (error: unknown) => void): void {
      timer = setInterval(() => {
        const looked = turn.then(look);
        turn = looked.catch(failed);
      }, TICK_MS);
      timer.unref();
    },

    async close(): Promise<void> {
      if (timer) clearInterval(timer);
      await turn;
    },
  };
}

/** The plan once its run has begun, or missed its time: null where nothing of it is left. */
function followed(plan: RunPlan, nowMs: number): RunPlan | null {
  if (!plan.daily)
    return plan.stopAfterS === null && plan.stopAt === null ? null : { ...plan, startAt: null };
  const next = new Date(plan.startAt!);
  const days = Math.floor((nowMs - next.getTime()) / DAY_MS);
  // By the calendar, so that the hour stays when the clocks are changed.
  next.setDate(next.getDate() + Math.max(0, days));
  while (next.getTime() <= nowMs) next.setDate(next.getDate() + 1);
  return { ...plan, startAt: next.toISOString() };
}

interface Standing {
  readonly lengthS: number;
  readonly newest: { readonly value: number; readonly reason: number } | null;
}

function whyOver({ stopAfterS, stopAt }: RunPlan, { lengthS, newest }: Standing): string | null {
  if (stopAfterS !== null && lengthS >= stopAfterS) return `after ${printNumber(stopAfterS, 0)} s`;
  if (!stopAt || !newest || newest.reason !== REASON.ok) return null;
  const isBeyond = stopAt.side === 'above' ? newest.value > stopAt.value : newest.value < stopAt.value;
  return isBeyond ? `the reading was ${stopAt.side} ${stopAt.value}` : null;
}

function faultOf(
  plan: RunPlan,
  gadget: Gadget,
  nowMs: number,
): [detail: string, wayOut: string, field: string] | null {
  const { startAt, daily, stopAfterS, stopAt } = plan;
  if (startAt === null && stopAfterS === null && stopAt === null)
    return [
      'The schedule has neither a start time nor a stop condition.',
      'Set at least one of them.',
      'startAt',
    ];
  if (daily && startAt === null)
    return ['A daily run needs a start time.', 'Set the first start time.', 'startAt'];
  if (startAt !== null && Date.parse(startAt) <= nowMs)
    return [
      `The start time, ${timeInWords(startAt)}, is in the past.`,
      'Choose a time in the future.',
      'startAt',
    ];
  if (daily && stopAfterS === null && stopAt === null)
    return ['A daily run must end before the next one starts.', 'Set a stop condition.', 'stopAfterS'];
  if (daily && stopAfterS !== null && stopAfterS >= DAY_MS / 1000)
    return ['A daily run must end before the next one starts.', 'Make it shorter than a day.', 'stopAfterS'];
  if (stopAt && !gadget.channels.some((c) => c.id === stopAt.channelId))
    return [
      'The channel of the stop condition does not exist.',
      'Choose another channel of this gadget.',
      'stopAt',
    ];
  return null;
}

/** The logbook cannot know the reader’s time zone, so it names its own. */
const timeInWords = (iso: string) => `${iso.slice(0, 16).replace('T', ' ')} UTC`;

function inWords({ startAt, daily, stopAfterS, stopAt }: RunPlan, gadget: Gadget): string {
  const channel = gadget.channels.find((c) => c.id === stopAt?.channelId);
  const unit = channel ? readingUnit(gadget, channel) : null;
  return [
    startAt && `the next starts at ${timeInWords(startAt)}${daily ? ', then daily' : ''}`,
    stopAfterS !== null && `stops after ${printNumber(stopAfterS, 0)} s`,
    stopAt &&
      channel &&
      `stops when ${channel.name} is ${stopAt.side} ${stopAt.value} ${unit ? UNITS[unit].symbol : ''}`.trim(),
  ]
    .filter(Boolean)
    .join('; ');
}
