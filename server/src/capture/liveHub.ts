import type { Server } from 'node:http';
import { WebSocketServer, type WebSocket } from 'ws';
import { encodeReadings, encodeSampleBlock } from '@lucky-needle/core/formats';
import { ClientMessage, type ServerMessage } from '@lucky-needle/core/model';
import type { Readings } from '@lucky-needle/core/reading';
import type { ServerConfig } from '../config.ts';
import { refusal } from '../http/security.ts';
import { bodyCheck } from '../http/validate.ts';
import { liveFigures } from './liveFigures.ts';
import type { Links } from './links.ts';
import type { LinkRunner } from './linkRunner.ts';

const SAMPLES_MS = 100;
/** Turns between two of a gadget that no page looks at. */
const UNWATCHED_TURNS = 5;
const STATUS_MS = 500;
const PACE_MS = 2000;
/** What a page that has just come is told of the past: a minute of everything, more of the readings themselves. */
const RECENT_S = 60;
const RECENT_READINGS_S = 600;
/** A page that cannot keep up is skipped until its buffer drains, and let go when it does not. */
const MAX_BUFFERED = 4_000_000;
const STUCK_MS = 15_000;
/** Pages at once, and what one may say in a second: a page says one thing a change of gadget. */
const MAX_PAGES = 200;
const MAX_SAYS = 20;
/** A page that answers no ping for so long is gone. */
const PING_MS = 30_000;

/** What is known of the page behind a socket. */
interface Page {
  gadgetId: string | null;
  /** Of which set-up of its lines it has been told; null of none. */
  setUps: number | null;
  /** Since when its buffer has been full; null while it drains. */
  fullSince: number | null;
  says: number;
  isAlive: boolean;
}

/** Live readings and link states to the open pages, over one socket each. */
export class LiveHub {
  private readonly sockets = new WebSocketServer({ noServer: true, maxPayload: 4096 });
  private readonly pages = new Map<WebSocket, Page>();
  private turn = 0;
  private readonly timers: NodeJS.Timeout[];
  private readonly links: Links;
  private readonly stuckMs: number;
  private readonly maxBuffered: number;

  constructor(
    server: Server,
    links: Links,
    config: ServerConfig,
    { stuckMs = STUCK_MS, maxBuffered = MAX_BUFFERED } = {},
  ) {
    this.links = links;
    this.stuckMs = stuckMs;
    this.maxBuffered = maxBuffered;
    server.on('upgrade', (request, socket, head) => {
      // Before anything else: a socket that breaks while it is looked at would end the program.
      socket.on('error', () => socket.destroy());
      if (pathOf(request.url) !== '/api/live' || refusal(request, config) !== null)
        return void socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n');
      if (this.pages.size >= MAX_PAGES)
        return void socket.end('HTTP/1.1 503 Too many open pages\r\nConnection: close\r\n\r\n');
      this.sockets.handleUpgrade(request, socket, head, (ws) => this.welcome(ws));
    });
    this.timers = [
      setInterval(() => this.sendSamples(), SAMPLES_MS),
      setInterval(() => this.sendStatus(), STATUS_MS),
      setInterval(() => this.letStuckGo(), 1000),
      setInterval(() => this.ping(), PING_MS),
      setInterval(() => void links.followPaces().catch(() => undefined), PACE_MS),
    ];
  }

  /** Tells every page that watches the gadget that something stored has changed. */
  changed(gadgetId: string, what: string): void {
    for (const [ws, page] of this.pages)
      if (page.gadgetId === gadgetId) this.send(ws, { type: 'changed', gadgetId, what });
  }

  /** Tells every page that something stored has changed which belongs to no gadget. */
  changedForAll(what: string): void {
    for (const [ws, { gadgetId }] of this.pages)
      if (gadgetId !== null) this.send(ws, { type: 'changed', gadgetId, what });
  }

  close(): void {
    this.timers.forEach(clearInterval);
    for (const ws of this.sockets.clients) ws.terminate();
    this.sockets.close();
  }

  private welcome(ws: WebSocket): void {
    const page: Page = { gadgetId: null, setUps: null, fullSince: null, says: 0, isAlive: true };
    this.pages.set(ws, page);
    ws.on('message', (data) => {
      if (++page.says > MAX_SAYS) return ws.close(1008, 'Too many messages');
      const gadgetId = watchedIn(String(data));
      if (gadgetId === null)
        return this.send(ws, {
          type: 'refused',
          reason: 'Send {"type":"watch","gadgetId":…}; no other message is accepted.',
        });
      // What is known so far comes with the next readings: told in between, some would come twice.
      Object.assign(page, { gadgetId, setUps: null });
      this.sendStatusTo(ws, gadgetId);
    });
    ws.on('pong', () => (page.isAlive = true));
    ws.on('close', () => this.pages.delete(ws));
    ws.on('error', () => ws.terminate());
  }

  /** Pages that have not taken anything for long would keep it all in memory. */
  private letStuckGo(): void {
    const now = performance.now();
    for (const [ws, page] of this.pages) {
      page.says = 0;
      if (ws.bufferedAmount <= this.maxBuffered) page.fullSince = null;
      else if (page.fullSince === null) page.fullSince = now;
      else if (now - page.fullSince > this.stuckMs) ws.terminate();
    }
  }

  private ping(): void {
    for (const [ws, page] of this.pages) {
      if (!page.isAlive && ws.bufferedAmount === 0) ws.terminate();
      page.isAlive = false;
      ws.ping();
    }
  }

  /** Works out what came in, for all gadgets, and tells the pages that look. */
  private sendSamples(): void {
    this.turn++;
    const watched = new Set([...this.pages.values()].map((p) => p.gadgetId));
    for (const [k, runner] of this.links.all().entries()) {
      const { live } = runner;
      const { gadgetId } = runner.stored;
      if (!watched.has(gadgetId)) {
        // Whoever asks for readings has them worked out by asking; the turns are taken so that nothing piles up.
        if ((this.turn + k) % UNWATCHED_TURNS !== 0) continue;
        live.run();
        live.pass();
        continue;
      }
      live.run();
      const raw = live.takeRaw();
      const parts = live.takeReadings();
      const told =
        this.figuresDue && runner.gadget
          ? liveFigures(runner.gadget, live, (id) => live.takeEvents(id))
          : null;
      let bytes: ArrayBuffer[] | null = null;
      for (const [ws, page] of this.pages) {
        if (page.gadgetId !== gadgetId || ws.bufferedAmount > this.maxBuffered) continue;
        if (page.setUps !== live.setUps) {
          this.tellAll(ws, page, runner);
          continue;
        }
        bytes ??= [
          ...(raw ? [rawBlock(runner, raw)] : []),
          ...(parts.length > 0 ? [encodeReadings({ gadgetId, parts })] : []),
        ];
        for (const piece of bytes) ws.send(piece);
        if (told) this.send(ws, told);
      }
    }
  }

  /** Figures are told every second time: an eye follows no faster. */
  private get figuresDue(): boolean {
    return this.turn % 2 === 0;
  }

  /** What the lines are, and what is known of the last minutes. */
  private tellAll(ws: WebSocket, page: Page, runner: LinkRunner): void {
    const { live } = runner;
    const { gadgetId } = runner.stored;
    page.setUps = live.setUps;
    this.send(ws, {
      type: 'bench',
      gadgetId,
      sampleRateHz: live.sampleRateHz ?? 1,
      channels: live.channels.map(({ id, line, slowestHz, warmUpS }, k) => ({
        id,
        line,
        slowestHz: slowestHz ?? null,
        warmUpS: warmUpS ?? 0,
        problem: live.problems[k] ?? null,
      })),
    });
    ws.send(rawBlock(runner, live.raw.since(live.raw.newestS - RECENT_S)));
    ws.send(encodeReadings({ gadgetId, parts: live.recent(RECENT_S, RECENT_READINGS_S) }));
    const told = runner.gadget && liveFigures(runner.gadget, live, (id) => live.recentEvents(id));
    if (told) this.send(ws, told);
  }

  private sendStatus(): void {
    for (const runner of this.links.all()) if (!runner.live.alarms.isEmpty) runner.tickAlarms();
    for (const [ws, { gadgetId }] of this.pages) if (gadgetId !== null) this.sendStatusTo(ws, gadgetId);
  }

  private sendStatusTo(ws: WebSocket, gadgetId: string): void {
    const runner = this.links.of(gadgetId);
    if (!runner) return;
    this.send(ws, { type: 'status', gadgetId, status: runner.status });
    this.send(ws, { type: 'alarms', gadgetId, alarms: runner.live.alarms.now });
  }

  private send(ws: WebSocket, message: ServerMessage): void {
    // What a full page misses comes again by itself, but for what has changed.
    if (ws.bufferedAmount > MAX_BUFFERED && message.type !== 'changed') return;
    if (ws.readyState === ws.OPEN) ws.send(JSON.stringify(message));
  }
}

const checkMessage = bodyCheck(ClientMessage);

/** The gadget that a message asks to watch; null where it is none that is understood. */
function watchedIn(text: string): string | null {
  try {
    const message: unknown = JSON.parse(text);
    checkMessage(message);
    return (message as ClientMessage).gadgetId;
  } catch {
    return null;
  }
}

/** The path that is asked for, as it is written: one that only leads there in the end is another. */
const pathOf = (url: string | undefined) => (url ?? '').split('?')[0];

function rawBlock({ columns, stored }: LinkRunner, rows: Readings): ArrayBuffer {
  return encodeSampleBlock({
    header: {
      columns: columns.map((name) => ({ name, unit: 'count' })),
      count: rows.times.length,
      reducedBy: 1,
      gadgetId: stored.gadgetId,
    },
    times: rows.times,
    columns: rows.columns,
  });
}
