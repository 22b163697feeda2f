import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import type { Gadget, Link, MadeLink, NewLink, Recording } from '@lucky-needle/core/model';
import type { ServerConfig } from '../src/config.ts';
import { startServer, type RunningServer } from '../src/start.ts';

/** What a simulated link is asked for by. */
export const SIMULATED: NewLink = { settings: { kind: 'simulated' }, mapping: null };

export const quiet = pino({ level: 'silent' });

export function freshFolder(): string {
  return mkdtempSync(join(tmpdir(), 'needle-'));
}

export const configFor = (dataDir: string, change: Partial<ServerConfig> = {}): ServerConfig => ({
  dataDir,
  host: '127.0.0.1',
  port: 0,
  passphrase: null,
  names: [],
  mqttPort: 0,
  followDirs: [dataDir],
  webDir: null,
  devOrigin: null,
  ...change,
});

export interface TestBench {
  readonly server: RunningServer;
  readonly dataDir: string;
  call<T>(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; body: T; headers: Headers }>;
  /** A gadget with a simulated link at twenty times the pace. */
  linkedGadget(): Promise<Gadget>;
  close(): Promise<void>;
}

/** A real server on a port of its own with an empty workspace. */
export async function openBench(
  change: Partial<ServerConfig> = {},
  options: { demo?: boolean; past?: boolean; dataDir?: string; now?: () => string } = {},
): Promise<TestBench> {
  const dataDir = options.dataDir ?? freshFolder();
  const server = await startServer(configFor(dataDir, change), {
    log: quiet,
    loadMillWhenEmpty: options.demo ?? false,
    withoutPast: !options.past,
    ...(options.now ? { now: options.now } : {}),
  });
  const call: TestBench['call'] = async (method, path, body, headers = {}) => {
    const response = await fetch(server.url + path, {
      method,
      headers: { ...(body === undefined ? {} : { 'Content-Type': 'application/json' }), ...headers },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    const json = response.headers.get('content-type')?.includes('json') ?? false;
    return {
      status: response.status,
      body: (json && text ? JSON.parse(text) : text) as never,
      headers: response.headers,
    };
  };
  return {
    server,
    dataDir,
    call,
    async linkedGadget() {
      const gadget = await call<Gadget>('POST', '/api/gadgets', {
        template: 'several-temperatures',
        name: 'Test probes',
      });
      await call<MadeLink>('POST', `/api/gadgets/${gadget.body.id}/link`, SIMULATED);
      await call<Link>('PATCH', `/api/gadgets/${gadget.body.id}/link`, { speed: 20 });
      return gadget.body;
    },
    async close() {
      await server.close();
      if (!options.dataDir) rmSync(dataDir, { recursive: true, force: true });
    },
  };
}

/** Tries until the check holds; fails with its last answer after so many seconds, which only a busy machine needs. */
export async function until<T>(
  look: () => Promise<T> | T,
  holds: (value: T) => boolean,
  seconds = 45,
): Promise<T> {
  let value = await look();
  for (let i = 0; i < 20 * seconds && !holds(value); i++) {
    await new Promise((done) => setTimeout(done, 50));
    value = await look();
  }
  if (!holds(value)) throw new Error(`Still not so: ${JSON.stringify(value)}`);
  return value;
}

export const recordingOf = async (bench: TestBench, id: string): Promise<Recording> =>
  (await bench.call<Recording>('GET', `/api/recordings/${id}`)).body;
