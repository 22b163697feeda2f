import { decodeReadings, decodeSampleBlock, isReadings } from '@lucky-needle/core/formats';
import type {
  GadgetAlarms,
  LinkStatus,
  LiveChannel,
  NowFigure,
  SeenEvent,
  ServerMessage,
} from '@lucky-needle/core/model';
import { History } from '@lucky-needle/core/reading';

/** How long raw rows are kept in the page, s, and how many at the most: a steady window of the fastest link, and a minute to draw. */
const RAW_S = 70;
const MOST_RAW = 200_000;
/** The same of readings. */
const READING_S = 600;
const MOST_READINGS = 200_000;

/** Between two times that pages are told of what came. */
const TELL_MS = 180;

/** Readings after one stage of a line. */
export interface StageReadings {
  readonly times: Float64Array;
  readonly values: Float64Array;
  /** 0 where the value is good. */
  readonly reasons: Float64Array;
}

/** What counts on a channel, and what is made of it. */
export interface LiveCounts {
  /** Why nothing can be counted; null when it can. */
  readonly problem: string | null;
  /** Standard uncertainty of the newest reading where the readings tell it themselves; null where the line does. */
  readonly worth: number | null;
  readonly figures: readonly NowFigure[];
  /** The newest, oldest first. */
  readonly events: readonly SeenEvent[];
}

/** Events that are kept of a channel. */
const MOST_EVENTS = 500;

/** What the server runs the gadget's lines with. */
export interface BenchLines {
  readonly sampleRateHz: number;
  readonly channels: readonly LiveChannel[];
}

export interface LiveSnapshot {
  /** Counts up with every change, so that pages can tell. */
  readonly version: number;
  readonly connected: boolean;
  readonly gadgetId: string | null;
  readonly times: Float64Array;
  readonly columns: ReadonlyMap<string, Float64Array>;
  readonly status: LinkStatus | null;
  readonly lines: BenchLines | null;
  /** By channel, then by stage: index 0 is what comes after the first. */
  readonly readings: ReadonlyMap<string, readonly StageReadings[]>;
  /** By channel. */
  readonly counts: ReadonlyMap<string, LiveCounts>;
  /** As the server runs them; null while nothing is told of them. */
  readonly alarms: GadgetAlarms | null;
}

const EMPTY: LiveSnapshot = {
  version: 0,
  connected: false,
  gadgetId: null,
  times: new Float64Array(0),
  columns: new Map(),
  status: null,
  lines: null,
  readings: new Map(),
  counts: new Map(),
  alarms: null,
};

/**
 * One socket to the server; keeps the newest rows and readings of the gadget on screen, outside the store, and reconnects by
 * itself. Readings are the server's: pages draw what they are told.
 */
export class LiveClient {
  private socket: WebSocket | null = null;
  private wanted: string | null = null;
  private snapshot: LiveSnapshot = EMPTY;
  private raw: History | null = null;
  private columns: readonly string[] = [];
  private places = new Map<string, History[]>();
  private readonly listeners = new Set<() => void>();
  private telling = false;
  private toldAt = 0;
  private retryMs = 500;
  onChanged: (what: string) => void = () => {};

  watch(gadgetId: string): void {
    if (this.wanted === gadgetId) return;
    this.wanted = gadgetId;
    this.forget();
    this.snapshot = {
      ...EMPTY,
      gadgetId,
      connected: this.snapshot.connected,
      version: this.snapshot.version + 1,
    };
    this.emit();
    if (this.socket?.readyState === WebSocket.OPEN) this.ask();
    else if (!this.socket) this.connect();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly current = (): LiveSnapshot => this.snapshot;

  private connect(): void {
    const socket = new WebSocket(
      `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`,
    );
    socket.binaryType = 'arraybuffer';
    this.socket = socket;
    socket.onopen = () => {
      this.retryMs = 500;
      this.forget();
      this.change({
        connected: true,
        times: EMPTY.times,
        columns: EMPTY.columns,
        readings: EMPTY.readings,
        counts: EMPTY.counts,
      });
      this.ask();
    };
    socket.onmessage = (event) => {
      if (typeof event.data === 'string') this.takeMessage(JSON.parse(event.data) as ServerMessage);
      else if (isReadings(event.data as ArrayBuffer)) this.takeReadings(event.data as ArrayBuffer);
      else this.takeRows(event.data as ArrayBuffer);
    };
    socket.onclose = () => {
      this.socket = null;
      this.change({ connected: false, alarms: null });
      setTimeout(() => this.wanted && !this.socket && this.connect(), this.retryMs);
      this.retryMs = Math.min(8000, this.retryMs * 2);
    };
  }

  private ask(): void {
    this.socket?.send(JSON.stringify({ type: 'watch', gadgetId: this.wanted }));
  }

  private forget(): void {
    this.raw = null;
    this.columns = [];
    this.places = new Map();
  }

  private takeMessage(message: ServerMessage): void {
    if (message.type === 'refused' || message.gadgetId !== this.wanted) return;
    if (message.type === 'status') this.change({ status: message.status });
    else if (message.type === 'alarms') this.change({ alarms: message.alarms });
    else if (message.type === 'changed') this.onChanged(message.what);
    else if (message.type === 'figures') this.takeFigures(message.channels);
    else {
      // Lines were set up: all that is known of them comes anew.
      this.forget();
      const { sampleRateHz, channels } = message;
      this.change({
        lines: { sampleRateHz, channels },
        times: EMPTY.times,
        columns: EMPTY.columns,
        readings: EMPTY.readings,
        counts: EMPTY.counts,
      });
    }
  }

  private takeFigures(channels: Extract<ServerMessage, { type: 'figures' }>['channels']): void {
    const counts = new Map(this.snapshot.counts);
    for (const { channelId, problem, worth, figures, events } of channels) {
      const before = counts.get(channelId)?.events ?? [];
      const all = events.length > 0 ? [...before, ...events].slice(-MOST_EVENTS) : before;
      counts.set(channelId, { problem, worth, figures, events: all });
    }
    this.change({ counts });
  }

  private takeRows(bytes: ArrayBuffer): void {
    const block = decodeSampleBlock(bytes);
    if (block.header.gadgetId !== this.wanted) return;
    const names = block.header.columns.map((c) => c.name);
    if (!this.raw || names.join('\n') !== this.columns.join('\n')) {
      this.raw = new History(RAW_S, MOST_RAW, names.length);
      this.columns = names;
    }
    const { raw } = this;
    raw.add(block.times, block.columns, block.header.count);
    this.change({
      times: raw.times,
      columns: new Map(names.map((name, k) => [name, raw.column(k)])),
    });
  }

  private takeReadings(bytes: ArrayBuffer): void {
    const { gadgetId, parts } = decodeReadings(bytes);
    if (gadgetId !== this.wanted) return;
    const readings = new Map(this.snapshot.readings);
    const touched = new Set<string>();
    for (const { channelId, stage, times, values, reasons } of parts) {
      const stages = this.places.get(channelId) ?? [];
      this.places.set(channelId, stages);
      while (stages.length < stage) stages.push(new History(READING_S, MOST_READINGS, 2));
      stages[stage - 1]!.add(times, [values, reasons], times.length);
      touched.add(channelId);
    }
    for (const id of touched)
      readings.set(
        id,
        this.places.get(id)!.map((history) => ({
          times: history.times,
          values: history.column(0),
          reasons: history.column(1),
        })),
      );
    this.change({ readings });
  }

  private change(part: Partial<LiveSnapshot>): void {
    this.snapshot = { ...this.snapshot, ...part, version: this.snapshot.version + 1 };
    this.emit();
  }

  /** Pages are told at once, and then no more often than an eye follows. */
  private emit(): void {
    if (this.telling) return;
    this.telling = true;
    const tell = () => {
      this.telling = false;
      this.toldAt = Date.now();
      this.listeners.forEach((listener) => listener());
    };
    const waitMs = this.toldAt + TELL_MS - Date.now();
    if (waitMs > 0) setTimeout(tell, waitMs);
    else queueMicrotask(tell);
  }
}

export const liveClient = new LiveClient();
