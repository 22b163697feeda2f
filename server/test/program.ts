import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { until } from './bench.ts';

const children: ChildProcess[] = [];

/** The real program in a process of its own. */
export async function launch(
  dataDir: string,
  env: Record<string, string> = {},
): Promise<{ child: ChildProcess; url: string; said: () => string }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'src/main.ts'], {
    cwd: join(import.meta.dirname, '..'),
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
