import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Gadget, Problem } from '@lucky-needle/core/model';
import { proposedAlarms, TEMPLATES } from '@lucky-needle/core/plan';
import { openBench, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

/** A gadget with the alarms that are proposed for it, on a display. */
async function gadgetOn(template: string, displayId: string, alarms = true): Promise<Gadget> {
  const made = (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: `A "${template}" */` }))
    .body;
  const { body, status } = await bench.call<Gadget>(
    'PATCH',
    `/api/gadgets/${made.id}`,
    {
      face: { displayId, bigChannelId: made.channels[0]!.id },
      ...(alarms ? { alarms: proposedAlarms(made) } : {}),
    },
    { 'If-Match': `"${made.version}"` },
  );
  expect(status).toBe(200);
  return body;
}
const header = (id: string) => bench.call<string>('GET', `/api/gadgets/${id}/face/header`);

/** Compiles a header, warnings as errors. */
function compile(text: string): void {
  const folder = mkdtempSync(join(tmpdir(), 'needle-face-'));
  try {
    writeFileSync(join(folder, 'face.h'), text);
    writeFileSync(
      join(folder, 'main.c'),
      '#include "face.h"\n#include "face.h"\nint main(void) { return 0; }\n',
    );
    execFileSync(
      'cc',
      [
        '-std=c99',
        '-Wall',
        '-Wextra',
        '-Werror',
        '-Wno-unused',
        join(folder, 'main.c'),
        '-o',
        join(folder, 'main'),
        '-lm',
      ],
      { stdio: 'pipe' },
    );
  } finally {
    rmSync(folder, { recursive: true });
  }
}

describe('what a gadget shows and sounds, in C', () => {
  it.each(TEMPLATES.filter((t) => t.id !== 'empty').map((t) => [t.id] as const))(
    'of %s compiles, alarms and rows',
    async (template) => {
      const { id, alarms, channels } = await gadgetOn(template, 'character-20x4');
      const { status, body, headers } = await header(id);
      expect(status).toBe(200);
      expect(headers.get('content-type')).toMatch(/text\/x-c/);
      expect(body.match(/^#define A_\w+_ALARM_/gm)).toHaveLength(alarms!.length);
      expect(body.match(/^#define A_\w+_SHOWS_/gm)!.length).toBeGreaterThanOrEqual(channels.length);
      compile(body);
    },
  );

  it('says what the maker calls a reading, with the ends in the unit that is shown', async () => {
    const { id } = await gadgetOn('cell-bench', 'character-20x4');
    const { body } = await header(id);
    expect(body).toMatch(
      /ln_state \w+\[\] = \{\{"reversed", \S+INFINITY\S+ \S*-0\.1\S*, \{"empty slot", \S*-0\.1\S*, \S*0\.1\S*\}\};/,
    );
    expect(body).toMatch(/-INFINITY or INFINITY instead of NAN at the end of the ADC range/);
  });

  it('has alarms alone for a display of pixels, and says so where there is neither', async () => {
    const { id } = await gadgetOn('gas-watch', 'oled-128x64');
    const { body } = await header(id);
    expect(body).toContain('_alarms_start');
    expect(body).not.toContain('_face(');
    const bare = await gadgetOn('gas-watch', 'oled-128x64', false);
    const refused = await bench.call<Problem>('GET', `/api/gadgets/${bare.id}/face/header`);
    expect(refused.status).toBe(422);
    expect(refused.body.wayOut).toMatch(/choose a character display/);
    expect((await bench.call('GET', '/api/gadgets/nobody/face/header')).status).toBe(404);
  });
});
