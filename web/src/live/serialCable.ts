/** The part of the browser's serial ports that is used here. */
interface SerialPort {
  readonly readable: ReadableStream<Uint8Array> | null;
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
}
interface Serial extends EventTarget {
  requestPort(): Promise<SerialPort>;
  getPorts(): Promise<SerialPort[]>;
}

export interface CableState {
  readonly gadgetId: string | null;
  readonly state: 'out' | 'opening' | 'reading' | 'trying again';
  /** What went wrong last, in words. */
  readonly problem: string | null;
  readonly bytes: number;
}

const SEND_MS = 100;
const RETRY_MS = 1500;
/** Text that waits while the server is away; what is more is dropped from its start and said. */
const MOST_WAITING = 800_000;

export const serialOf = (): Serial | null => (navigator as { serial?: Serial }).serial ?? null;

/**
 * Reads a board on a cable of this computer and passes its text on to the server. Goes on while pages change, and takes the
 * cable up again by itself when it was pulled or the server was away.
 */
export class SerialCable {
  private snapshot: CableState = { gadgetId: null, state: 'out', problem: null, bytes: 0 };
  private readonly listeners = new Set<() => void>();
  private port: SerialPort | null = null;
  private wanted = false;
  private baud = 115_200;
  private waiting = '';
  private sending = false;
  private timer: ReturnType<typeof setInterval> | null = null;
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly current = (): CableState => this.snapshot;

  /** Asks the maker for a port and reads it; needs a click. */
  async connect(gadgetId: string, baud: number): Promise<void> {
    const serial = serialOf();
    if (!serial) return;
    try {
      this.port = await serial.requestPort();
    } catch {
      // The maker has closed the list without a choice.
      return;
    }
    await this.disconnect();
    this.wanted = true;
    this.baud = baud;
    this.change({ gadgetId, state: 'opening', problem: null, bytes: 0 });
    this.timer = setInterval(() => void this.send(), SEND_MS);
    void this.keepReading();
  }

  async disconnect(): Promise<void> {
    this.wanted = false;
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    await this.reader?.cancel().catch(() => undefined);
    this.change({ state: 'out' });
  }

  private async keepReading(): Promise<void> {
    while (this.wanted && this.port) {
      try {
        await this.port.open({ baudRate: this.baud });
        this.change({ state: 'reading', problem: null });
        await this.read(this.port);
        if (this.wanted) throw new Error('the cable was unplugged');
      } catch (error) {
        this.change({ state: 'trying again', problem: `Serial port error: ${(error as Error).message}.` });
      }
      await this.port.close().catch(() => undefined);
      if (!this.wanted) break;
      await new Promise((done) => setTimeout(done, RETRY_MS));
      // Plugged in again, it may be a port of its own.
      this.port = (await serialOf()!.getPorts()).at(-1) ?? this.port;
    }
  }

  private async read(port: SerialPort): Promise<void> {
    const decoder = new TextDecoder();
    this.reader = port.readable!.getReader();
    try {
      for (;;) {
        const { value, done } = await this.reader.read();
        if (done) return;
        this.waiting += decoder.decode(value, { stream: true });
        if (this.waiting.length > MOST_WAITING) {
          this.waiting = this.waiting.slice(-MOST_WAITING / 2);
          this.change({ problem: 'The server was unreachable for too long; some readings were lost.' });
        }
        this.snapshot = { ...this.snapshot, bytes: this.snapshot.bytes + value.length };
      }
    } finally {
      this.reader.releaseLock();
      this.reader = null;
    }
  }

  private async send(): Promise<void> {
    const { gadgetId } = this.snapshot;
    if (this.waiting === '' || this.sending || gadgetId === null) return;
    const text = this.waiting;
    this.waiting = '';
    this.sending = true;
    try {
      const answer = await fetch(`/api/gadgets/${gadgetId}/link/text`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ text }),
      });
      if (answer.status >= 500) throw new Error();
      if (!answer.ok) {
        this.change({
          problem: 'The server no longer accepts data from this cable: the gadget’s link has been changed.',
        });
        await this.disconnect();
      }
      this.emit();
    } catch {
      this.waiting = text + this.waiting;
    } finally {
      this.sending = false;
    }
  }

  private change(part: Partial<CableState>): void {
    this.snapshot = { ...this.snapshot, ...part };
    this.emit();
  }

  private emit(): void {
    this.listeners.forEach((listener) => listener());
  }
}

export const serialCable = new SerialCable();
