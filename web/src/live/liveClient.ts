import { decodeSampleBlock } from '@lucky-needle/core/formats';
import type { LinkStatus, ServerMessage } from '@lucky-needle/core/model';

/** Newest readings kept in the page. */
const CAPACITY = 6000;

export interface LiveSnapshot {
  /** Counts up with every change, so that pages can tell. */
  readonly version: number;
  readonly connected: boolean;
  readonly gadgetId: string | null;
  readonly times: Float64Array;
  readonly columns: ReadonlyMap<string, Float64Array>;
  readonly status: LinkStatus | null;
}

const EMPTY: LiveSnapshot = {
  version: 0,
  connected: false,
  gadgetId: null,
  times: new Float64Array(0),
  columns: new Map(),
  status: null,
};

/** One socket to the server; keeps the newest readings of the gadget on screen, outside the store, and reconnects by itself. */
export class LiveClient {
  private socket: WebSocket | null = null;
  private wanted: string | null = null;
  private snapshot: LiveSnapshot = EMPTY;
  private readonly listeners = new Set<() => void>();
  private retryMs = 500;
  onChanged: (what: string) => void = () => {};

  watch(gadgetId: string): void {
    if (this.wanted === gadgetId) return;
    this.wanted = gadgetId;
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
      this.change({ connected: true, times: EMPTY.times, columns: EMPTY.columns });
      this.ask();
    };
    socket.onmessage = (event) => {
      if (typeof event.data === 'string') this.takeMessage(JSON.parse(event.data) as ServerMessage);
      else this.takeSamples(event.data as ArrayBuffer);
    };
    socket.onclose = () => {
      this.socket = null;
      this.change({ connected: false });
      setTimeout(() => this.wanted && !this.socket && this.connect(), this.retryMs);
      this.retryMs = Math.min(8000, this.retryMs * 2);
    };
  }

  private ask(): void {
    this.socket?.send(JSON.stringify({ type: 'watch', gadgetId: this.wanted }));
  }

  private takeMessage(message: ServerMessage): void {
    if (message.type === 'refused' || message.gadgetId !== this.wanted) return;
    if (message.type === 'status') this.change({ status: message.status });
    else this.onChanged(message.what);
  }

  private takeSamples(bytes: ArrayBuffer): void {
    const block = decodeSampleBlock(bytes);
    if (block.header.gadgetId !== this.wanted) return;
    const columns = new Map<string, Float64Array>();
    block.header.columns.forEach(({ name }, i) => {
      columns.set(name, append(this.snapshot.columns.get(name), block.columns[i]!));
    });
    this.change({ times: append(this.snapshot.times, block.times), columns });
  }

  private change(part: Partial<LiveSnapshot>): void {
    this.snapshot = { ...this.snapshot, ...part, version: this.snapshot.version + 1 };
    this.emit();
  }

  private emit(): void {
    this.listeners.forEach((listener) => listener());
  }
}

function append(old: Float64Array | undefined, fresh: Float64Array): Float64Array {
  const keep = old ? old.subarray(Math.max(0, old.length + fresh.length - CAPACITY)) : EMPTY.times;
  const joined = new Float64Array(keep.length + fresh.length);
  joined.set(keep);
  joined.set(fresh, keep.length);
  return joined;
}

export const liveClient = new LiveClient();
