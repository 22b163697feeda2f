import {
  boardReader,
  detectLines,
  lineSplitter,
  mappedReader,
  type LineReading,
} from '@lucky-needle/core/formats';
import type { Gadget, LineMapping, Link, LinkLines, LinkPatch, LinkStatus } from '@lucky-needle/core/model';
import { LINE_FAULT_WORDS } from '@lucky-needle/core/words';
import type { StoredLink } from '../db/links.ts';
import { Health, LOST_AFTER_MS } from './health.ts';
import { Intake, type IncomingReading, type Outcome } from './intake.ts';
import { LiveBench } from './liveBench.ts';
import type { Recorder } from './recorder.ts';
import type { LinkSource, SimulatedControls } from './source.ts';

/** Newest lines kept to be looked at, and to tell their format from. */
const RECENT_LINES = 60;
/** Lines after which a format may be told. */
const TOLD_BY = 4;
/** Longest line that is waited for. */
const MAX_LINE = 20_000;
/** Readings that arrive over a network may overtake each other by this. */
const ORDER_WINDOW_S = 1;
const FLUSH_MS = 200;

/** Makes the source of a link, which brings text to it. */
export type Connect = (text: (piece: string) => void) => LinkSource;

/** One link: text or readings in, readings on one time base out, with the counts that tell how healthy it is. */
export class LinkRunner {
  readonly columns: readonly string[];
  recorder: Recorder | null = null;
  /** Works out the readings beside the recorder. */
  readonly live: LiveBench;
  stored: StoredLink;
  /** The gadget as its lines were set up. */
  gadget: Gadget | null = null;
  private newestAtMs = Number.NaN;
  private readonly source: LinkSource;
  private readonly intake: Intake;
  private readonly health: Health;
  private readonly split: (piece: string) => void;
  private readonly flushing: NodeJS.Timeout | null;
  private read: ((line: string) => LineReading) | null = null;
  private used: LineMapping | null = null;
  private lines: string[] = [];
  private badLines = 0;
  private lastBadLine: string | null = null;

  constructor(stored: StoredLink, columns: readonly string[], rateHz: number, connect: Connect) {
    this.stored = stored;
    this.columns = columns;
    this.live = new LiveBench(columns);
    this.health = new Health(columns.length, performance.now());
    const networked = stored.settings.kind === 'push' || stored.settings.kind === 'mqtt';
    const orderWindowS = networked ? ORDER_WINDOW_S : 0;
    this.intake = new Intake(
      { rateHz, orderWindowS, speed: () => this.source?.simulated?.speed ?? 1 },
      {
        accept: (timeS, values) => this.accept(timeS, values),
        remark: (code, text) => {
          this.recorder?.remark(code, text);
          this.health.restart(performance.now());
        },
      },
    );
    this.flushing = networked
      ? setInterval(() => this.intake.flush(performance.now() / 1000), FLUSH_MS)
      : null;
    this.split = lineSplitter((line) => this.takeLine(line), MAX_LINE);
    this.useMapping(stored.mapping);
    this.source = connect(this.split);
  }

  /** Text as it comes from a cable, in pieces of any size. */
  takeText(piece: string): void {
    this.split(piece);
  }

  /** A reading that needs no reading of text. */
  takeReading(reading: IncomingReading): Outcome {
    const now = performance.now();
    this.health.took(now, reading.timeS, reading.values);
    return this.intake.take(reading, now / 1000);
  }

  /** Readings a second as the gadget sends them; null until that is known. */
  get paceHz(): number | null {
    return this.live.raw.total > 30 ? 1 / this.intake.periodS : null;
  }

  get link(): Link {
    const { stored, source } = this;
    return {
      id: stored.id,
      gadgetId: stored.gadgetId,
      kind: stored.settings.kind,
      name: stored.name,
      state: this.state,
      settings: stored.settings,
      mapping: stored.mapping,
      speed: source.simulated?.speed ?? 1,
      conditions: [...(source.simulated?.conditions ?? [])],
      condition: source.simulated?.condition ?? null,
      faults: source.simulated?.faults ?? null,
    };
  }

  get status(): LinkStatus {
    const now = performance.now();
    const { health, intake, source } = this;
    const up = this.state === 'up';
    return {
      linkId: this.stored.id,
      state: this.state,
      // In simulated time, so that a sped-up board is judged by what it would achieve on a bench.
      achievedHz: up ? health.rateHz(now) / (source.simulated?.speed ?? 1) : 0,
      jitterMs: up && source.simulated === null ? health.jitterMs : null,
      gaps: health.gaps,
      lost: intake.lost,
      duplicated: intake.duplicated,
      late: intake.late,
      stuck: health.stuck(now).map((k) => this.columns[k]!),
      clockBehindS: source.simulated === null ? health.clockBehindS : null,
      badLines: this.badLines,
      lastBadLine: this.lastBadLine,
      problem: source.problem,
      condition: source.simulated?.condition ?? null,
      speed: source.simulated?.speed ?? 1,
      instruments: source.simulated?.instruments() ?? [],
      recording: this.recorder && {
        id: this.recorder.recording.id,
        committed: this.recorder.committed,
        waiting: this.recorder.waiting,
        problem: this.recorder.problem,
      },
    };
  }

  /** The newest lines, what they look like and how they are read. */
  get looked(): LinkLines {
    const detected = detectLines(this.lines, this.columns);
    const results = this.used ? this.lines.map(mappedReader(this.used, this.columns)) : [];
    return {
      lines: this.lines.slice(-12),
      fields: [...(detected?.fields ?? [])],
      suggested: detected?.mapping ?? null,
      used: this.used,
      read: results.filter((r) => r.kind === 'reading').length,
      unread: results.filter((r) => r.kind === 'issue').length,
    };
  }

  /**
   * @returns what truly is from now on, in words, where a simulated world is changed; for that is known of no other
   * @throws {RangeError} for a condition that the simulated world does not have
   */
  change(patch: LinkPatch): readonly string[] {
    const { simulated } = this.source;
    const before = simulated && happeningsOf(simulated);
    if (patch.condition !== undefined) simulated?.setCondition(patch.condition);
    if (simulated && patch.speed !== undefined) {
      simulated.speed = patch.speed;
      this.health.restart(performance.now());
    }
    if (simulated && patch.plugged !== undefined) simulated.plugged = patch.plugged;
    if (simulated && patch.faults !== undefined) simulated.faults = patch.faults;
    if (patch.mapping !== undefined) {
      this.stored = { ...this.stored, mapping: patch.mapping };
      this.useMapping(patch.mapping);
    }
    return simulated && before ? happeningsOf(simulated).filter((h) => !before.includes(h)) : [];
  }

  /** Another token from now on. */
  useToken(tokenHash: string): void {
    this.stored = { ...this.stored, tokenHash };
  }

  /**
   * A button of the bench is pressed: now, on the gadget's clock. What is recorded keeps it as a mark of the watch's name.
   * @returns its time, s @throws {WatchError} when there is no such button
   */
  press(channelId: string, watchId: string): number {
    const agoS = ((performance.now() - this.newestAtMs) / 1000) * (this.source.simulated?.speed ?? 1);
    return this.live.press(channelId, watchId, Number.isFinite(agoS) ? agoS : 0);
  }

  /** Tells the other end how an alarm stands, where it listens. */
  tellAlarm(ruleId: string, text: string): void {
    this.source.tellAlarm?.(ruleId, text);
  }

  /** Alarms go on while nothing comes: in the gadget's own time. */
  tickAlarms(): void {
    this.live.run();
    const silentS = (this.health.silentMs(performance.now()) / 1000) * (this.source.simulated?.speed ?? 1);
    this.live.alarms.tick(silentS);
  }

  /** Gives on what still waits to be put in order. */
  settle(): void {
    this.intake.flush(Infinity);
  }

  stop(): void {
    if (this.flushing) clearInterval(this.flushing);
    this.settle();
    this.source.stop();
  }

  private get state(): LinkStatus['state'] {
    if (!this.source.plugged) return 'unplugged';
    return this.health.silentMs(performance.now()) > LOST_AFTER_MS ? 'lost' : 'up';
  }

  /** A board of the bench's own writes as it always does; others as the maker said, or as their lines tell. */
  private useMapping(mapping: LineMapping | null): void {
    this.used = mapping;
    if (this.stored.settings.kind === 'simulated') this.read = ownBoard(this.columns);
    else this.read = mapping && mappedReader(mapping, this.columns);
  }

  private takeLine(line: string): void {
    if (line.trim() !== '') {
      this.lines.push(line.slice(0, 400));
      if (this.lines.length > RECENT_LINES) this.lines.shift();
    }
    if (!this.read) {
      if (this.lines.length < TOLD_BY) return;
      const detected = detectLines(this.lines, this.columns);
      if (!detected) return this.bad('unknown-format', line);
      this.useMapping(detected.mapping);
    }
    const reading = this.read!(line);
    if (reading.kind === 'none') return;
    if (reading.kind === 'issue') return this.bad(reading.code, reading.text);
    this.takeReading(reading);
  }

  private bad(code: keyof typeof LINE_FAULT_WORDS, line: string): void {
    this.badLines++;
    const text = `Unreadable line (${LINE_FAULT_WORDS[code]}): ${line.slice(0, 80)}`;
    this.lastBadLine = text;
    this.recorder?.remark(code, text);
  }

  private accept(timeS: number, values: readonly number[]): void {
    this.live.append(timeS, values);
    this.newestAtMs = performance.now();
    this.recorder?.append(timeS, values);
  }
}

const happeningsOf = ({ conditions, condition, plugged, faults }: SimulatedControls): string[] => [
  conditions.find((c) => c.id === condition)?.title ?? condition,
  plugged ? 'plugged in' : 'unplugged',
  faults.stuck === null ? 'no column stuck' : `${faults.stuck} stuck`,
];

/** Lines as the bench's own simulated boards print them. */
function ownBoard(columns: readonly string[]): (line: string) => LineReading {
  const read = boardReader(columns);
  return (line) => {
    const reading = read(line);
    if (reading.kind === 'reading') return { ...reading, sequence: null };
    if (reading.kind === 'header' || reading.code === 'empty') return { kind: 'none' };
    return { kind: 'issue', code: reading.code, text: reading.text };
  };
}
