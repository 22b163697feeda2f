import type { Server } from 'node:http';
import { WebSocketServer, type WebSocket } from 'ws';
import { encodeSampleBlock } from '@lucky-needle/core/formats';
import { ClientMessage, type ServerMessage } from '@lucky-needle/core/model';
import type { ServerConfig } from '../config.ts';
import { refusal } from '../http/security.ts';
import { bodyCheck } from '../http/validate.ts';
import type { Links } from './links.ts';
import type { LinkRunner, LiveReadings } from './linkRunner.ts';

const SAMPLES_MS = 100;
const STATUS_MS = 500;
/** A page that cannot keep up is skipped until its buffer drains. */
const MAX_BUFFERED = 4_000_000;

/** Live readings and link states to the open pages, over one socket each. */
export class LiveHub {
  private readonly sockets = new WebSocketServer({ noServer: true, maxPayload: 4096 });
  private readonly watching = new Map<WebSocket, string>();
  private readonly timers: NodeJS.Timeout[];
  private readonly links: Links;

  constructor(server: Server, links: Links, config: ServerConfig) {
    this.links = links;
    const check = bodyCheck(ClientMessage);
    server.on('upgrade', (request, socket, head) => {
      if (
        new URL(request.url ?? '/', 'http://x').pathname !== '/api/live' ||
        refusal(request, config) !== null
      ) {
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
    ];
  }

  /** Tells every page that watches the gadget that something stored has changed. */
  changed(gadgetId: string, what: string): void {
    for (const [ws, id] of this.watching)
      if (id === gadgetId) this.send(ws, { type: 'changed', gadgetId, what });
  }

  /** Tells every page that something stored has changed which belongs to no gadget. */
  changedForAll(what: string): void {
    for (const [ws, gadgetId] of this.watching) this.send(ws, { type: 'changed', gadgetId, what });
  }

  close(): void {
    this.timers.forEach(clearInterval);
    for (const ws of this.sockets.clients) ws.terminate();
    this.sockets.close();
  }

  private watch(ws: WebSocket, gadgetId: string): void {
    this.watching.set(ws, gadgetId);
    const runner = this.links.of(gadgetId);
    if (!runner) return;
    if (runner.recentReadings.times.length > 0) ws.send(block(runner, runner.recentReadings));
    this.send(ws, { type: 'status', gadgetId, status: runner.status });
  }

  private sendSamples(): void {
    for (const runner of this.links.all()) {
      const fresh = runner.takeFresh();
      if (fresh.times.length === 0) continue;
      let bytes: ArrayBuffer | null = null;
      for (const [ws, id] of this.watching) {
        if (id !== runner.stored.gadgetId || ws.bufferedAmount > MAX_BUFFERED) continue;
        bytes ??= block(runner, fresh);
        ws.send(bytes);
      }
    }
  }

  private sendStatus(): void {
    for (const [ws, gadgetId] of this.watching) {
      const runner = this.links.of(gadgetId);
      if (runner) this.send(ws, { type: 'status', gadgetId, status: runner.status });
    }
  }

  private send(ws: WebSocket, message: ServerMessage): void {
    if (ws.readyState === ws.OPEN) ws.send(JSON.stringify(message));
  }
}

function block(runner: LinkRunner, readings: LiveReadings): ArrayBuffer {
  const columns = runner.columns;
  return encodeSampleBlock({
    header: {
      columns: columns.map((name) => ({ name, unit: 'count' })),
      count: readings.times.length,
      reducedBy: 1,
      gadgetId: runner.stored.gadgetId,
    },
    times: Float64Array.from(readings.times),
    columns: columns.map((_, i) => Float64Array.from(readings.rows, (row) => row[i]!)),
  });
}
