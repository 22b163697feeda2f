// What the program takes of the machine while all gadgets of the mill are read.
import { once } from 'node:events';
import { pageBusy } from './inBrowser.ts';
import { askOf, tell } from './measure.ts';
import { cpuSeconds, launch } from './program.ts';

/** All gadgets of the mill read at once, without a page, and then with one that looks at the fastest of them. */
export async function millRows(folder: string): Promise<void> {
  const mill = await launch(folder, '--demo');
  const busy = async (ms: number) => {
    const before = cpuSeconds(mill.child);
    const start = performance.now();
    await new Promise((done) => setTimeout(done, ms));
    return (100_000 * (cpuSeconds(mill.child) - before)) / (performance.now() - start);
  };
  try {
    await busy(10_000);
    const alone = await busy(20_000);
    tell({
      name: 'Live bench, all gadgets of the mill, simulated, read and converted, no page open',
      ours: alone,
      peer: 10,
      unit: '% of a core',
      ratio: 10 / alone,
      bar: 1,
    });
    const { items } = await askOf(mill.url)<{ items: { id: string; template: string }[] }>(
      '/api/gadgets?limit=50',
      'GET',
    );
    const fast = items.find((g) => g.template === 'impact-peak')!;
    const page = await pageBusy(`${mill.url}/g/${fast.id}/true-up`);
    if (page === null) return console.log('Page on a fast link: no Chromium here; not measured.');
    tell({
      name: 'Main thread of a page on the 2000/s gadget',
      ours: page.percent,
      peer: 15,
      unit: '% of a core',
      ratio: 15 / page.percent,
      bar: 1,
    });
    // The browser tells nothing of tasks below 50 ms.
    tell({
      name: 'Longest task of that page in ten seconds',
      ours: Math.max(page.longestMs, 50),
      peer: 50,
      unit: 'ms',
      ratio: 50 / Math.max(page.longestMs, 50),
      bar: 1,
    });
  } finally {
    mill.child.kill('SIGTERM');
    await once(mill.child, 'exit');
  }
}
