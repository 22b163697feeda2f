import type { AlarmChange } from '@lucky-needle/core/alarm';
import { alarmTopic } from '@lucky-needle/core/formats';
import type { AlarmRule, Gadget } from '@lucky-needle/core/model';
import { rawColumns, shelfWith } from '@lucky-needle/core/plan';
import { createWorld } from '@lucky-needle/core/simulate';
import { printSignificant, UNITS } from '@lucky-needle/core/units';
import type { StoredLink } from '../db/links.ts';
import type { Tables } from '../db/tables.ts';
import { startBroker, type Broker } from './broker.ts';
import { fileSource } from './fileSource.ts';
import { LinkRunner, type Connect } from './linkRunner.ts';
import { liveSpec } from './liveSpec.ts';
import { mqttSource } from './mqttSource.ts';
import { SimulatedBoard } from './simulatedBoard.ts';
import { tokenFits } from './linkToken.ts';
import { PASSIVE } from './source.ts';

/** An alarm that comes again within so long is not written down again. */
const TELL_AGAIN_MS = 30_000;

/** A pace that is so much off, as a share, is another one. */
export const OTHER_PACE = 0.05;

export interface LinksOptions {
  readonly host: string;
  /** Of the bench's own broker; 0 for any free one. */
  readonly mqttPort: number;
  /** Folders below which log files may be followed. */
  readonly followDirs: readonly string[];
}

/** Between two gadgets whose lines are started anew for their pace: nothing waits for it, and much for what it holds up. */
const BETWEEN_MS = 30;

/** The links that are running, one a gadget at the most. */
export class Links {
  private readonly runners = new Map<string, LinkRunner>();
  private readonly gadgetOfLink = new Map<string, string>();
  private isFollowing = false;
  /** When alarms were last written down, by gadget, rule and level. */
  private readonly toldMs = new Map<string, number>();
  private readonly tables: Tables;
  private readonly options: LinksOptions;
  private broker: Promise<Broker> | null = null;

  constructor(tables: Tables, options: LinksOptions) {
    this.tables = tables;
    this.options = options;
  }

  async startAll(): Promise<void> {
    for (const stored of await this.tables.links.list()) {
      try {
        const gadget = await this.tables.gadgets.find(stored.gadgetId);
        if (gadget && !this.runners.has(gadget.id)) await this.run(stored, gadget);
      } catch (error) {
        // One link that cannot be started must not keep the others, nor the server.
        console.error(`Cannot start link "${stored.name}": ${(error as Error).message}`);
      }
    }
  }

  async start(gadget: Gadget): Promise<LinkRunner | null> {
    const stored = await this.tables.links.ofGadget(gadget.id);
    if (!stored) return null;
    this.stop(gadget.id);
    return this.run(stored, gadget);
  }

  of(gadgetId: string): LinkRunner | null {
    return this.runners.get(gadgetId) ?? null;
  }

  all(): LinkRunner[] {
    return [...this.runners.values()];
  }

  stop(gadgetId: string): void {
    const runner = this.runners.get(gadgetId);
    runner?.stop();
    if (runner) this.gadgetOfLink.delete(runner.stored.id);
    this.runners.delete(gadgetId);
  }

  async stopAll(): Promise<void> {
    for (const runner of this.runners.values()) {
      runner.stop();
      await runner.recorder?.abandon();
    }
    this.runners.clear();
    this.gadgetOfLink.clear();
    await (await this.broker?.catch(() => null))?.close();
  }

  /** The running link with this id; null when there is none. */
  byLink(linkId: string): LinkRunner | null {
    const gadgetId = this.gadgetOfLink.get(linkId);
    return (gadgetId === undefined ? null : this.runners.get(gadgetId)) ?? null;
  }

  /** Cuts every link while something is done that they must not see, and starts those that there are afterwards. */
  async pause(action: () => Promise<void> | void): Promise<void> {
    for (const runner of this.runners.values()) runner.stop();
    this.runners.clear();
    this.gadgetOfLink.clear();
    try {
      await action();
    } finally {
      await this.startAll();
    }
  }

  /** Address of the bench's own broker, started when it is first asked for. @throws when its port is taken */
  async ownBroker(): Promise<string> {
    return (await this.brokerOfBench()).address;
  }

  private async brokerOfBench(): Promise<Broker> {
    this.broker ??= startBroker(this.options.host, this.options.mqttPort, {
      fits: (linkId, password) => tokenFits(this.byLink(linkId)?.stored ?? null, password),
      topicOf: (linkId) => topicOf(this.byLink(linkId)),
      alarmsOf: (linkId) => alarmTopic(topicOf(this.byLink(linkId)) ?? '#'),
    });
    try {
      return await this.broker;
    } catch (error) {
      this.broker = null;
      throw error;
    }
  }

  /** Starts the lines of a gadget anew, since it, its calibrations or its parts have changed. */
  async setUpAgain(gadgetId: string): Promise<void> {
    const runner = this.runners.get(gadgetId);
    const gadget = runner && (await this.tables.gadgets.find(gadgetId));
    if (runner && gadget) await this.setUp(runner, gadget);
  }

  /** Starts the lines anew of gadgets that send at another pace than their lines were made for. */
  async followPaces(): Promise<void> {
    if (this.isFollowing) return;
    this.isFollowing = true;
    try {
      for (const { live, paceHz, stored } of this.all()) {
        if (paceHz === null || stored.settings.kind === 'simulated' || live.sampleRateHz === null) continue;
        if (Math.abs(paceHz / live.sampleRateHz - 1) <= OTHER_PACE) continue;
        await this.setUpAgain(stored.gadgetId);
        // Hundreds of them at once would keep everything else waiting for seconds.
        await new Promise((done) => setTimeout(done, BETWEEN_MS));
      }
    } finally {
      this.isFollowing = false;
    }
  }

  private async setUp(runner: LinkRunner, gadget: Gadget): Promise<void> {
    const [calibrations, own] = await Promise.all([
      this.tables.calibrations.list(gadget.id),
      this.tables.parts.list(),
    ]);
    // A real gadget keeps its own pace, whatever the brief asks for.
    const pace = runner.stored.settings.kind === 'simulated' ? null : runner.paceHz;
    const shelf = shelfWith(own.map((o) => o.part));
    runner.gadget = gadget;
    runner.live.setUp(liveSpec(gadget, calibrations, shelf, runner.columns, pace ?? gadget.sampleRateHz));
    runner.live.alarms.onChange = (rule, change) => this.alarmed(runner, rule, change);
    runner.live.alarms.setUp(gadget);
  }

  /** What comes or goes up is written down, by the run that goes on as well. */
  private alarmed(runner: LinkRunner, rule: AlarmRule, { from, to, value }: AlarmChange): void {
    const { stored, recorder } = runner;
    const { unit } = rule;
    const at = new Date().toISOString();
    const told = {
      gadget: runner.gadget?.name ?? '',
      alarm: rule.name,
      level: to,
      before: from,
      value,
      unit,
      at,
    };
    runner.tellAlarm(rule.id, JSON.stringify(told));
    const isRise = to === 'limit' || (to === 'caution' && from !== 'limit');
    if (!isRise) return;
    const key = `${stored.gadgetId} ${rule.id} ${to}`;
    const now = performance.now();
    // One that comes and goes all the time would fill the book.
    if (now - (this.toldMs.get(key) ?? Number.NEGATIVE_INFINITY) < TELL_AGAIN_MS) return;
    this.toldMs.set(key, now);
    const text = `Alarm “${rule.name}”: ${to}${valueInWords(rule, value)}.`;
    recorder?.remark('alarm', text);
    void this.tables.logbook.write(stored.gadgetId, 'face', text).catch(() => undefined);
  }

  private async run(stored: StoredLink, gadget: Gadget): Promise<LinkRunner> {
    const simulated = stored.settings.kind === 'simulated';
    const columns = simulated ? createWorld(stored.truth!).columns : rawColumns(gadget);
    const connect = await this.connector(stored, gadget.sampleRateHz);
    const runner = new LinkRunner(stored, columns, gadget.sampleRateHz, connect);
    await this.setUp(runner, gadget);
    this.runners.set(gadget.id, runner);
    this.gadgetOfLink.set(stored.id, gadget.id);
    return runner;
  }

  private async connector({ settings, truth, speed }: StoredLink, rateHz: number): Promise<Connect> {
    switch (settings.kind) {
      case 'simulated':
        return (text) => new SimulatedBoard(truth!, rateHz, speed, text);
      case 'mqtt': {
        if (settings.broker !== null) return (text) => mqttSource(settings.broker!, settings.topic, text);
        try {
          const own = await this.brokerOfBench();
          return (text) => mqttSource(own.address, settings.topic, text, own);
        } catch (error) {
          const problem = `The built-in MQTT broker cannot start: ${(error as Error).message}. Free port ${this.options.mqttPort}, or set MQTT_PORT to another port.`;
          return () => ({ ...PASSIVE, problem });
        }
      }
      case 'file':
        return (text) => fileSource(settings.path, this.options.followDirs, text);
      case 'push':
      case 'serial':
        return () => PASSIVE;
    }
  }
}

const valueInWords = (rule: AlarmRule, value: number | null) =>
  value === null || rule.kind === 'silent' || rule.kind === 'fault'
    ? ''
    : ` at ${printSignificant(value, 3)} ${UNITS[rule.unit].symbol}`;

/** What a link to the bench's own broker follows; null for others. */
function topicOf(runner: LinkRunner | null): string | null {
  const settings = runner?.stored.settings;
  return settings?.kind === 'mqtt' && settings.broker === null ? settings.topic : null;
}
