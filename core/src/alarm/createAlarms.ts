import type { AlarmLevel, AlarmNow, AlarmRule } from '../model/alarm.ts';
import { REASON, REASONS } from '../stage/contract.ts';
import { levelsOf, sizeOf } from './alarmSize.ts';

/** An alarm came, went up, or let go. */
export interface AlarmChange {
  readonly ruleId: string;
  readonly timeS: number;
  readonly from: AlarmLevel;
  readonly to: AlarmLevel;
  /** What it looked at then, in the rule's unit; null where there was nothing. */
  readonly value: number | null;
}

/** Alarms of one gadget, told of every reading in its order of time. */
export interface Alarms {
  /** A reading of a channel, in the unit that `unitOf` told. */
  reading(channelId: string, timeS: number, value: number, reason: number): void;
  /** A figure as it stands. @param atS when what it is made of last happened; NaN where it has no moment */
  figure(
    channelId: string,
    figureId: string,
    timeS: number,
    value: number,
    atS: number,
    reason: string,
  ): void;
  /** Time has gone on, with or without a word from the gadget. @param silentS how long it has said nothing */
  time(timeS: number, silentS: number): void;
  /** Somebody has seen it: what is held by its latch lets go, and its sounder is quiet. False where there is none such. */
  see(ruleId: string, timeS: number): boolean;
  /** All sounders are quiet for so long; what comes or goes up meanwhile sounds. */
  silence(timeS: number, seconds: number): void;
  now(timeS: number): AlarmNow[];
  save(): AlarmMemory[];
  /** Goes on from there, rule by rule; those that are not in it begin anew. */
  restore(saved: readonly AlarmMemory[]): void;
}

/** What one alarm remembers, as plain data. */
export interface AlarmMemory {
  ruleId: string;
  level: AlarmLevel;
  sinceS: number;
  value: number;
  reason: string;
  isSeen: boolean;
  isHeld: boolean;
  silencedToS: number;
  /** Newest answers to whether it is beyond caution and limit, newest last, at most m. */
  caution: boolean[];
  limit: boolean[];
  /** Recent values, for rise and fall; for a fault where it last moved to, and the largest size so far. */
  times: number[];
  values: number[];
  /** When something was last heard, or last moved. */
  heardS: number;
}

const RANK: Record<AlarmLevel, number> = { unknown: 0, quiet: 1, caution: 2, limit: 3 };
/** After so long without a word nothing is known, s. */
export const SILENT_S = 3;
/** Less than this share of the largest reading is no move. */
export const STILL = 1e-12;
/** Values that a window is kept by: of fast readings some are enough. */
export const KEPT = 128;

/** Reasons that are no fault: it waits, it warms up, it is beyond what its curve was made for. */
const FAULTY = new Set<number>([REASON.missing, REASON.saturatedLow, REASON.saturatedHigh]);

/**
 * Runs rules over readings and figures. A rule rises as soon as n of its newest m readings are beyond a level, and lets go
 * when fewer are, each level widened by the hysteresis while it is on, after its minimum time, and where it is latched only
 * once it was seen. A reading that is none tells nothing: what is on stays on, what was quiet is not known.
 * @param toUnit turns a channel's reading, or a figure's value, into the unit of a rule
 * @param wordOf what the maker calls a reading that a rule cannot go by, such as "reversed"; null where it has no name
 */
export function createAlarms(
  rules: readonly AlarmRule[],
  toUnit: (rule: AlarmRule, value: number) => number,
  tell: (change: AlarmChange) => void,
  wordOf: (channelId: string, value: number, reason: number) => string | null = () => null,
): Alarms {
  const states = rules.map((rule) => ({ rule, levels: levelsOf(rule), m: fresh(rule.id) }));
  const byChannel = new Map(
    rules.map(({ channelId }) => [channelId, states.filter(({ rule }) => rule.channelId === channelId)]),
  );
  const ofChannel = (channelId: string) => byChannel.get(channelId) ?? [];

  function change(state: (typeof states)[number], to: AlarmLevel, timeS: number): void {
    const { rule, m } = state;
    if (to === m.level) return;
    const from = m.level;
    const rises = RANK[to] > RANK[from] && RANK[to] > RANK.quiet;
    Object.assign(m, { level: to, sinceS: timeS, isHeld: false });
    // What gets worse is news: it was not seen, and sounds again.
    if (rises) Object.assign(m, { isSeen: false, silencedToS: Number.NEGATIVE_INFINITY });
    tell({ ruleId: rule.id, timeS, from, to, value: Number.isNaN(m.value) ? null : m.value });
  }

  function judge(state: (typeof states)[number], size: number, timeS: number): void {
    const { rule, levels, m } = state;
    const isOn = (level: 'caution' | 'limit') =>
      level === 'limit' ? m.level === 'limit' : m.level === 'limit' || m.level === 'caution';
    // What is heard, and what is at fault, is so or not.
    const back = rule.kind === 'silent' || rule.kind === 'fault' ? 0 : rule.hysteresis;
    for (const level of ['caution', 'limit'] as const) {
      const at = levels[level];
      const answers = m[level];
      answers.push(isOn(level) && back > 0 ? size > at - back : size >= at);
      if (answers.length > rule.m) answers.shift();
    }
    const wanted = wantedBy(state);
    if (RANK[wanted] >= RANK[m.level]) {
      m.isHeld = false;
      change(state, wanted, timeS);
      return;
    }
    // A gadget that was silent may have stood still meanwhile: its clock is the one that counts.
    if (timeS < m.sinceS) m.sinceS = timeS;
    if (timeS - m.sinceS < rule.minimumOnS) return;
    if (rule.latch && !m.isSeen) m.isHeld = true;
    else change(state, wanted, timeS);
  }

  /** What the newest readings say. */
  function wantedBy({ rule, m }: (typeof states)[number]): AlarmLevel {
    const beyond = (level: 'caution' | 'limit') => m[level].filter(Boolean).length >= rule.n;
    return beyond('limit') ? 'limit' : beyond('caution') ? 'caution' : 'quiet';
  }

  /** Nothing is known: what is on stays on. */
  function lose(state: (typeof states)[number], reason: string, timeS: number): void {
    state.m.reason = reason;
    if (state.m.level !== 'quiet' && state.m.level !== 'unknown') return;
    // What it read before is not what is now.
    state.m.value = Number.NaN;
    change(state, 'unknown', timeS);
  }

  const wordFor = (rule: AlarmRule, value: number, reason: number) =>
    rule.figureId === null ? wordOf(rule.channelId, value, reason) : null;

  function take(state: (typeof states)[number], timeS: number, value: number, reason: string): void {
    const { rule, m } = state;
    if (value !== value) return lose(state, reason, timeS);
    const x = toUnit(rule, value);
    m.reason = '';
    const isPlain = rule.kind === 'high' || rule.kind === 'low';
    if (isPlain && (x < (rule.from ?? -Infinity) || x > (rule.to ?? Infinity)))
      return lose(
        state,
        wordFor(rule, value, REASON.ok) ?? 'outside the range in which the alarm is active',
        timeS,
      );
    if (rule.kind !== 'rise' && rule.kind !== 'fall') {
      m.value = x;
      return judge(state, sizeOf(rule, x), timeS);
    }
    keep(m, timeS, x, rule.windowS);
    const covered = timeS - m.times[0]! >= 0.8 * rule.windowS;
    if (!covered) return lose(state, 'waiting for enough readings to fill the time window', timeS);
    m.value = x - m.values[0]!;
    judge(state, sizeOf(rule, m.value), timeS);
  }

  function heard(state: (typeof states)[number], timeS: number): void {
    const { m } = state;
    m.heardS = timeS;
    m.value = 0;
    m.reason = '';
    judge(state, 0, timeS);
  }

  function fault(state: (typeof states)[number], timeS: number, value: number, reason: number): void {
    const { rule, m } = state;
    if (reason === REASON.ok) {
      const [at, most] = m.values;
      const size = Math.max(most ?? 0, Math.abs(value));
      // A filter behind a stuck sensor still comes to rest, ever more slowly.
      const moved = at === undefined || Math.abs(value - at) > STILL * size;
      m.values = [moved ? value : at, size];
      if (moved) m.heardS = timeS;
    }
    const isStuck = rule.windowS > 0 && timeS - m.heardS >= rule.windowS;
    const isFaulty = FAULTY.has(reason) || (reason === REASON.ok && isStuck);
    m.reason = '';
    m.value = Number.NaN;
    if (!isFaulty && reason !== REASON.ok) return lose(state, REASONS[reason] ?? '', timeS);
    m.reason = isFaulty ? (isStuck ? 'stuck' : (REASONS[reason] ?? '')) : '';
    judge(state, isFaulty ? 1 : 0, timeS);
  }

  return {
    reading(channelId, timeS, value, reason) {
      for (const state of ofChannel(channelId)) {
        const { rule } = state;
        if (rule.figureId !== null) continue;
        if (rule.kind === 'silent') heard(state, timeS);
        else if (rule.kind === 'fault') fault(state, timeS, value, reason);
        else if (reason === REASON.ok) take(state, timeS, value, '');
        else lose(state, wordFor(rule, value, reason) ?? REASONS[reason] ?? 'no reading', timeS);
      }
    },
    figure(channelId, figureId, timeS, value, atS, reason) {
      for (const state of ofChannel(channelId)) {
        if (state.rule.figureId !== figureId) continue;
        if (state.rule.kind !== 'silent') take(state, timeS, value, reason || 'no result yet');
        else if (atS === atS && atS !== state.m.heardS) heard(state, atS);
      }
    },
    time(timeS, silentS) {
      for (const state of states) {
        const { rule, m } = state;
        if (rule.kind === 'silent') {
          if (Number.isNaN(m.heardS)) {
            if (silentS >= rule.windowS) {
              m.value = silentS;
              judge(state, silentS, timeS);
            }
            continue;
          }
          const size = Math.max(timeS - m.heardS, rule.figureId === null ? silentS : 0);
          if (size < rule.windowS && m.level !== 'limit') continue;
          m.value = size;
          judge(state, size, timeS);
        } else if (silentS > SILENT_S) lose(state, 'no readings from the gadget', timeS);
      }
    },
    see(ruleId, timeS) {
      const state = states.find(({ rule }) => rule.id === ruleId);
      if (!state) return false;
      state.m.isSeen = true;
      if (!state.m.isHeld) return true;
      state.m.isHeld = false;
      // What is left of it is known, and was seen.
      change(state, wantedBy(state), timeS);
      state.m.isSeen = true;
      return true;
    },
    silence(timeS, seconds) {
      for (const { m } of states) m.silencedToS = timeS + seconds;
    },
    now: (timeS) =>
      states.map(({ rule, m }) => ({
        ruleId: rule.id,
        level: m.level,
        sinceS: Number.isFinite(m.sinceS) ? m.sinceS : null,
        value: Number.isFinite(m.value) ? m.value : null,
        reason: m.level === 'unknown' ? m.reason || 'no readings yet' : m.reason,
        isHeld: m.isHeld,
        isSeen: m.isSeen,
        silencedS: Math.max(0, Number.isFinite(m.silencedToS) ? m.silencedToS - timeS : 0),
      })),
    save: () => structuredClone(states.map(({ m }) => m)),
    restore(saved) {
      for (const { rule, m } of states) {
        const before = saved.find((s) => s.ruleId === rule.id);
        if (before) Object.assign(m, structuredClone(before));
      }
    },
  };
}

const fresh = (ruleId: string): AlarmMemory => ({
  ruleId,
  level: 'unknown',
  sinceS: Number.NaN,
  value: Number.NaN,
  reason: '',
  isSeen: false,
  isHeld: false,
  silencedToS: Number.NEGATIVE_INFINITY,
  caution: [],
  limit: [],
  times: [],
  values: [],
  heardS: Number.NaN,
});

/** Keeps the values of a window: its oldest stands at its begin, or just before. */
function keep(m: AlarmMemory, timeS: number, x: number, windowS: number): void {
  const newest = m.times.at(-1);
  if (newest !== undefined && timeS - newest < windowS / KEPT) return;
  m.times.push(timeS);
  m.values.push(x);
  while (m.times.length > 2 && m.times[1]! <= timeS - windowS) {
    m.times.shift();
    m.values.shift();
  }
}

/** The gravest of all; unknown where nothing is quiet or worse, or there is no alarm. */
export function gravest(items: readonly { readonly level: AlarmLevel }[]): AlarmLevel {
  const worst = items.reduce<AlarmLevel>((w, { level }) => (RANK[level] > RANK[w] ? level : w), 'unknown');
  // One that nobody knows is not quiet.
  return worst === 'quiet' && items.some(({ level }) => level === 'unknown') ? 'unknown' : worst;
}
