import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { bundleServer } from '../../tools/build.mjs';
import { until } from './bench.ts';

/** A folder below the server's packages, one for each of the processes that tests run in. */
const FOLDER = join(
  import.meta.dirname,
  `../node_modules/.cache/program-${process.env['VITEST_POOL_ID'] ?? process.pid}`,
);
let bundled: Promise<string> | null = null;

/**
 * The program as makers run it, bundled once: reading hundreds of source files anew for each start takes half a minute in a
 * fresh clone with other tests beside it.
 */
export const program = (): Promise<string> =>
  (bundled ??= bundleServer(FOLDER).then(() => join(FOLDER, 'main.mjs')));

const children: ChildProcess[] = [];

/** The real program in a process of its own. */
export async function launch(
  dataDir: string,
  env: Record<string, string> = {},
): Promise<{ child: ChildProcess; url: string; said: () => string }> {
  const child = spawn(process.execPath, [await program()], {
    env: { ...process.env, LUCKY_NEEDLE_DATA: dataDir, PORT: '0', NODE_ENV: 'production', ...env },
  });
  children.push(child);
  let said = '';
  child.stdout!.on('data', (d) => (said += d));
  child.stderr!.on('data', (d) => (said += d));
  const url = await until(() => /http:\/\/\S+/.exec(said)?.[0] ?? '', Boolean);
  return { child, url, said: () => said };
}

export const ended = (child: ChildProcess) => new Promise((done) => child.once('exit', done));

/** Kills what a test has left running. */
export function endAll(): void {
  for (const child of children.splice(0)) child.kill('SIGKILL');
}

/** Calls a running program and reads its JSON. */
export async function ask<T>(url: string, method = 'GET', body?: object): Promise<T> {
  const response = await fetch(url, {
    method,
    headers: { 'Content-Type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const text = await response.text();
  return (text ? JSON.parse(text) : null) as T;
}
