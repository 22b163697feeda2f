import { createAlarms, gravest, inUnitOf, type AlarmChange, type Alarms } from '@lucky-needle/core/alarm';
import type { CompiledLine } from '@lucky-needle/core/line';
import type { AlarmRule, Gadget, GadgetAlarms } from '@lucky-needle/core/model';
import type { FigureReading } from '@lucky-needle/core/figures';
import { wordOfReading } from '@lucky-needle/core/plan';
import type { UnitId } from '@lucky-needle/core/units';

/** What alarms need of the bench that they look at. */
export interface Watched {
  /** The line of a channel's readings; null where it cannot run. */
  lineOf(channelId: string): CompiledLine | null;
  figures(channelId: string): readonly FigureReading[];
}

/** The alarms of a linked gadget, told of every reading as it is worked out. */
export class LiveAlarms {
  /** Told of what comes, goes up and lets go. */
  onChange: (rule: AlarmRule, change: AlarmChange) => void = () => undefined;
  private rules: readonly AlarmRule[] = [];
  private alarms: Alarms = createAlarms(
    [],
    (_, value) => value,
    () => undefined,
  );
  private ofFigures = new Set<string>();
  private newestS = 0;
  /** Units of what rules look at, until lines are set up anew. */
  private units = new Map<string, UnitId | null>();
  private readonly bench: Watched;

  constructor(bench: Watched) {
    this.bench = bench;
  }

  /** Other rules from now on, and other words; those that stay as they were go on where they stood. */
  setUp({ alarms: rules = [], channels }: Pick<Gadget, 'alarms' | 'channels'>): void {
    const saved = this.alarms.save().filter(({ ruleId }) => {
      const before = this.rules.find((r) => r.id === ruleId);
      return JSON.stringify(before) === JSON.stringify(rules.find((r) => r.id === ruleId));
    });
    this.rules = rules;
    this.units = new Map();
    this.ofFigures = new Set(rules.filter((r) => r.figureId !== null).map((r) => r.channelId));
    this.alarms = createAlarms(
      rules,
      (rule, value) => inUnitOf(rule, this.unitOf(rule), value),
      (change) =>
        this.onChange(
          rules.find((r) => r.id === change.ruleId)!,
          change,
        ),
      (channelId, value, reason) =>
        wordOfReading(channels, channelId, this.bench.lineOf(channelId), value, reason),
    );
    this.alarms.restore(saved);
  }

  get isEmpty(): boolean {
    return this.rules.length === 0;
  }

  /** The newest readings of a channel, `length` of them. */
  readings(
    channelId: string,
    times: Float64Array,
    values: Float64Array,
    reasons: Uint8Array,
    length: number,
  ): void {
    for (let i = 0; i < length; i++) this.alarms.reading(channelId, times[i]!, values[i]!, reasons[i]!);
  }

  /** Figures of a channel as they stand: after an event, and after readings. */
  figuresOf(channelId: string, timeS: number): void {
    if (!this.ofFigures.has(channelId)) return;
    for (const f of this.bench.figures(channelId))
      this.alarms.figure(channelId, f.id, timeS, f.value, f.atS, f.reason);
  }

  /** Figures of all channels that are looked at. */
  allFigures(timeS: number): void {
    this.newestS = timeS;
    for (const channelId of this.ofFigures) this.figuresOf(channelId, timeS);
  }

  /** Time goes on while nothing comes. */
  tick(silentS: number): void {
    this.alarms.time(this.newestS + silentS, silentS);
  }

  see(ruleId: string): boolean {
    return this.alarms.see(ruleId, this.newestS);
  }

  silence(seconds: number): void {
    this.alarms.silence(this.newestS, seconds);
  }

  get now(): GadgetAlarms {
    const items = this.alarms.now(this.newestS);
    return { level: gravest(items), items };
  }

  private unitOf(rule: AlarmRule): UnitId | null {
    const known = this.units.get(rule.id);
    if (known !== undefined) return known;
    const unit =
      rule.figureId === null
        ? (this.bench.lineOf(rule.channelId)?.outputs[0]?.unit ?? null)
        : (this.bench.figures(rule.channelId).find((f) => f.id === rule.figureId)?.unit ?? null);
    this.units.set(rule.id, unit);
    return unit;
  }
}
