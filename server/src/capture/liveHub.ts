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
const STATUS_MS = 500;
const PACE_MS = 2000;
/** What a page that has just come is told of the past: a minute of everything, more of the readings themselves. */
const RECENT_S = 60;
const RECENT_READINGS_S = 600;
/** A page that cannot keep up is skipped until its buffer drains. */
const MAX_BUFFERED = 4_000_000;

/** Live readings and link states to the open pages, over one socket each. */
export class LiveHub {
  private readonly sockets = new WebSocketServer({ noServer: true, maxPayload: 4096 });
  /** Who looks at which gadget, and of which set-up of its lines it has been told; null of none. */
  private readonly watching = new Map<
    WebSocket,
    { readonly gadgetId: string; readonly setUps: number | null }
  >();
  private turn = 0;
  private readonly timers: NodeJS.Timeout[];
  private readonly links: Links;

  constructor(server: Server, links: Links, config: ServerConfig) {
    this.links = links;
    const check = bodyCheck(ClientMessage);
    server.on('upgrade', (request, socket, head) => {
      if (pathOf(request.url) !== '/api/live' || refusal(request, config) !== null) {
        socket.end('HTTP/1.1 403 Forbidden\r\n\r\n');
        return;
      }
      this.sockets.handleUpgrade(request, socket, head, (ws) => {
        ws.on('message', (data) => {
          try {
            const message: unknown = JSON.parse(String(data));
            check(message);
            this.watch(ws, (message as ClientMessage).gadgetId);
          } catch {
            this.send(ws, { type: 'refused', reason: 'Only {"type":"watch","gadgetId":…} is understood.' });
          }
        });
        ws.on('close', () => this.watching.delete(ws));
        ws.on('error', () => ws.terminate());
      });
    });
    this.timers = [
      setInterval(() => this.sendSamples(), SAMPLES_MS),
      setInterval(() => this.sendStatus(), STATUS_MS),
      setInterval(() => void links.followPaces().catch(() => undefined), PACE_MS),
    ];
  }

  /** Tells every page that watches the gadget that something stored has changed. */
  changed(gadgetId: string, what: string): void {
    for (const [ws, watched] of this.watching)
      if (watched.gadgetId === gadgetId) this.send(ws, { type: 'changed', gadgetId, what });
  }

  /** Tells every page that something stored has changed which belongs to no gadget. */
  changedForAll(what: string): void {
    for (const [ws, { gadgetId }] of this.watching) this.send(ws, { type: 'changed', gadgetId, what });
  }

  close(): void {
    this.timers.forEach(clearInterval);
    for (const ws of this.sockets.clients) ws.terminate();
    this.sockets.close();
  }

  private watch(ws: WebSocket, gadgetId: string): void {
    // What is known so far comes with the next readings: told in between, some would come twice.
    this.watching.set(ws, { gadgetId, setUps: null });
    const runner = this.links.of(gadgetId);
    if (runner) this.send(ws, { type: 'status', gadgetId, status: runner.status });
  }

  /** Works out what came in, for all gadgets, and tells the pages that look. */
  private sendSamples(): void {
    this.turn++;
    for (const runner of this.links.all()) {
      const { live } = runner;
      const { gadgetId } = runner.stored;
      live.run();
      const raw = live.takeRaw();
      const parts = live.takeReadings();
      const isWatched = [...this.watching.values()].some((w) => w.gadgetId === gadgetId);
      if (!isWatched) live.passEvents();
      const told =
        isWatched && this.figuresDue && runner.gadget
          ? liveFigures(runner.gadget, live, (id) => live.takeEvents(id))
          : null;
      let bytes: ArrayBuffer[] | null = null;
      for (const [ws, watched] of this.watching) {
        if (watched.gadgetId !== gadgetId || ws.bufferedAmount > MAX_BUFFERED) continue;
        if (watched.setUps !== live.setUps) {
          this.tellAll(ws, runner);
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
  private tellAll(ws: WebSocket, runner: LinkRunner): void {
    const { live } = runner;
    const { gadgetId } = runner.stored;
    this.watching.set(ws, { gadgetId, setUps: live.setUps });
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
    for (const [ws, { gadgetId }] of this.watching) {
      const runner = this.links.of(gadgetId);
      if (runner) this.send(ws, { type: 'status', gadgetId, status: runner.status });
    }
  }

  private send(ws: WebSocket, message: ServerMessage): void {
    if (ws.readyState === ws.OPEN) ws.send(JSON.stringify(message));
  }
}

/** The path that is asked for; null where the address is none. */
function pathOf(url: string | undefined): string | null {
  try {
    return new URL(url ?? '/', 'http://x').pathname;
  } catch {
    return null;
  }
}

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
