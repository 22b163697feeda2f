// The program that is measured, as a process of its own.
import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';

/** Starts it on a folder, and waits until it tells its address. */
export async function launch(
  dataDir: string,
  ...args: string[]
): Promise<{ child: ChildProcess; url: string }> {
  const child = spawn(process.execPath, ['server/dist/main.mjs', ...args], {
    env: { ...process.env, PORT: '0', MQTT_PORT: '0', LUCKY_NEEDLE_DATA: dataDir },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let said = '';
  for await (const piece of child.stdout!) {
    said += String(piece);
    const url = /http:\/\/\S+/.exec(said)?.[0];
    if (url) return { child, url };
  }
  throw new Error(`The server did not start: ${said}`);
}

/** User and system time of a process so far, by the kernel's count of hundredths. */
export function cpuSeconds(child: ChildProcess): number {
  const fields = readFileSync(`/proc/${child.pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}
