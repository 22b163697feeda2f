// Two hundred gadgets that push ten readings a second each, all recorded: what is taken, and how long answers take.
import { mkdtempSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { connect, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch } from './program.ts';

const LINKS = 200;
const EACH_HZ = 10;
const SECONDS = 12;
/** Within this the answers of 99 of 100 should come, ms. */
const WITHIN_MS = 100;
/** Links that are made at once: their gadgets' own share of requests is not the one of pages. */
const MADE_AT_ONCE = 100;

interface Pushing {
  readonly gadgetId: string;
  readonly head: string;
  readonly columns: readonly string[];
  socket: Socket;
  /** When the requests that have no answer yet were sent, ms. */
  readonly sent: number[];
  heard: string;
}

const json = process.argv.includes('--json');
const folder = mkdtempSync(join(tmpdir(), 'needle-push-'));
const program = await launch(folder);
const { port } = new URL(program.url);
const latencies: number[] = [];
let accepted = 0;
try {
  const links = await makeLinks();
  for (const { gadgetId } of links) await ask(`/api/gadgets/${gadgetId}/recordings`, { name: 'pushed' });
  const sent = await pushAll(links);
  for (const { socket } of links) socket.destroy();
  const p99 = latencies.toSorted((a, b) => a - b)[Math.floor(0.99 * latencies.length)]!;
  told('taken of what 200 links push, all recorded', accepted, sent, 'readings', accepted / sent);
  told('answer to 99 of 100 of them', p99, WITHIN_MS, 'ms', WITHIN_MS / p99);
} finally {
  program.child.kill('SIGTERM');
  await once(program.child, 'exit');
  rmSync(folder, { recursive: true });
}

function told(name: string, ours: number, peer: number, unit: string, ratio: number): void {
  if (json) console.log(JSON.stringify({ name, ours, peer, unit, ratio, bar: 1 }));
  else
    console.log(
      `${name.padEnd(60)} ${ours.toPrecision(4)} of ${peer} ${unit}, ${ratio.toFixed(2)} (wanted 1)`,
    );
}

async function makeLinks(): Promise<Pushing[]> {
  const links: Pushing[] = [];
  for (let i = 0; i < LINKS; i++) {
    const gadget = await ask<{
      id: string;
      channels: { line: { sources: { column: string }[] } }[];
    }>('/api/gadgets', { template: 'gas-watch', name: `Pushing ${i}` });
    const made = await ask<{ link: { id: string }; token: string }>(`/api/gadgets/${gadget.id}/link`, {
      settings: { kind: 'push' },
      mapping: null,
    });
    const head =
      `POST /api/push/${made.link.id} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\n` +
      `Content-Type: application/json\r\nAuthorization: Bearer ${made.token}\r\nContent-Length: `;
    const columns = gadget.channels.flatMap((c) => c.line.sources.map((s) => s.column));
    const link: Pushing = { gadgetId: gadget.id, head, columns, socket: open(), sent: [], heard: '' };
    link.socket.on('data', (piece) => hear(link, String(piece)));
    links.push(link);
    if (i % MADE_AT_ONCE === MADE_AT_ONCE - 1) await new Promise((done) => setTimeout(done, 5000));
  }
  return links;
}

function open(): Socket {
  const socket = connect(Number(port), '127.0.0.1');
  return socket.setNoDelay(true);
}

function hear(link: Pushing, piece: string): void {
  link.heard += piece;
  for (;;) {
    const end = link.heard.indexOf('\r\n\r\n');
    if (end < 0) return;
    const length = Number(/content-length: (\d+)/i.exec(link.heard.slice(0, end))?.[1] ?? 0);
    if (link.heard.length < end + 4 + length) return;
    const body = JSON.parse(link.heard.slice(end + 4, end + 4 + length)) as { accepted?: number };
    link.heard = link.heard.slice(end + 4 + length);
    latencies.push(performance.now() - link.sent.shift()!);
    accepted += body.accepted ?? 0;
  }
}

/** Sends evenly over time, and waits for the last answer. @returns readings sent */
async function pushAll(links: readonly Pushing[]): Promise<number> {
  const total = LINKS * EACH_HZ * SECONDS;
  const startMs = performance.now();
  for (let sent = 0; sent < total;) {
    const due = Math.min(total, ((performance.now() - startMs) / 1000) * LINKS * EACH_HZ);
    for (; sent < due; sent++) {
      const link = links[sent % LINKS]!;
      const seq = Math.floor(sent / LINKS);
      const values = Object.fromEntries(link.columns.map((c) => [c, 500 + (seq % 7)]));
      const body = JSON.stringify({ t: seq / EACH_HZ, seq, values });
      link.sent.push(performance.now());
      link.socket.write(`${link.head}${body.length}\r\n\r\n${body}`);
    }
    await new Promise((done) => setTimeout(done, 2));
  }
  while (latencies.length < total) await new Promise((done) => setTimeout(done, 20));
  return total;
}

async function ask<T>(path: string, body: object): Promise<T> {
  const response = await fetch(program.url + path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
  return (await response.json()) as T;
}
