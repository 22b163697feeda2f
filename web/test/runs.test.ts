import { afterEach, describe, expect, it, vi } from 'vitest';
import { momentIn } from '../src/pages/runs/Cursors.tsx';
import { SerialCable } from '../src/live/serialCable.ts';
import { alignedAt } from '../src/pages/runs/alignedAt.ts';
import { bytesInWords } from '../src/parts/bytesInWords.ts';
import { fittedStretch } from '../src/parts/StretchSteps.tsx';

describe('the moment that runs are laid on each other by', () => {
  const run = { firstTimeS: 100, markers: [{ id: 'm', timeS: 130, text: 'lid off' }] };
  it('is the start, a mark, or where the reading passes a value', () => {
    expect(alignedAt(run, { kind: 'start' }, null)).toBe(100);
    expect(alignedAt(run, { kind: 'mark', text: 'lid off' }, null)).toBe(130);
    expect(alignedAt(run, { kind: 'passes', level: 40 }, 125)).toBe(125);
  });
  it('is none where the run has no such moment', () => {
    expect(alignedAt(run, { kind: 'mark', text: 'rain' }, 125)).toBeNull();
    expect(alignedAt(run, { kind: 'passes', level: 90 }, null)).toBeNull();
  });
});

describe('fittedStretch', () => {
  it('lies inside, is not too short, and is null for all of it', () => {
    expect(fittedStretch(10, 20, 100, 1)).toEqual({ fromS: 10, toS: 20 });
    expect(fittedStretch(-5, 5, 100, 1)).toEqual({ fromS: 0, toS: 10 });
    expect(fittedStretch(95, 105, 100, 1)).toEqual({ fromS: 90, toS: 100 });
    expect(fittedStretch(50, 50.01, 100, 2)).toEqual({ fromS: 50, toS: 52 });
    expect(fittedStretch(-50, 150, 100, 1)).toBeNull();
  });
});

it('tells the size of a file in three digits', () => {
  expect([900, 72_100, 5_230_000, 1_240_000_000].map(bytesInWords)).toEqual([
    '0.9 kB',
    '72.1 kB',
    '5.23 MB',
    '1.24 GB',
  ]);
});

describe('a cable', () => {
  afterEach(() => vi.unstubAllGlobals());

  /** A port that says some pieces and then ends, as when the cable is pulled. */
  function plug(...plays: readonly (readonly string[])[]) {
    let play = 0;
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      async open() {
        if (play >= plays.length) throw new Error('no such device');
        const pieces = [...plays[play++]!];
        this.readable = new ReadableStream({
          pull(controller) {
            const piece = pieces.shift();
            if (piece === undefined) controller.close();
            else controller.enqueue(new TextEncoder().encode(piece));
          },
        });
      },
      async close() {},
    };
    const serial = { requestPort: async () => port, getPorts: async () => [port] };
    Object.defineProperty(navigator, 'serial', { value: serial, configurable: true });
  }

  it('passes its text on whole and in order, keeps it while the server is away, and tries again when pulled', async () => {
    vi.useFakeTimers();
    try {
      plug(['1,2\n3', ',4\n'], ['5,6\n']);
      const sent: string[] = [];
      let away = true;
      vi.stubGlobal('fetch', async (_url: string, { body }: { body: string }) => {
        if (away) throw new Error('away');
        sent.push((JSON.parse(body) as { text: string }).text);
        return { ok: true, status: 204 };
      });
      const cable = new SerialCable();
      await cable.connect('g', 9600);
      await vi.advanceTimersByTimeAsync(500);
      expect(sent).toEqual([]);
      expect(cable.current()).toMatchObject({ state: 'trying again', gadgetId: 'g' });
      expect(cable.current().problem).toMatch(/Serial port error/);
      away = false;
      await vi.advanceTimersByTimeAsync(3000);
      expect(sent.join('')).toBe('1,2\n3,4\n5,6\n');
      await cable.disconnect();
      expect(cable.current().state).toBe('out');
    } finally {
      vi.useRealTimers();
    }
  });

  it('ends when the link takes no text any more', async () => {
    vi.useFakeTimers();
    try {
      plug(['1,2\n']);
      vi.stubGlobal('fetch', async () => ({ ok: false, status: 409 }));
      const cable = new SerialCable();
      await cable.connect('g', 9600);
      await vi.advanceTimersByTimeAsync(300);
      expect(cable.current()).toMatchObject({
        state: 'out',
        problem: expect.stringContaining('link has been changed'),
      });
    } finally {
      vi.useRealTimers();
    }
  });
});

describe('a moment that is typed', () => {
  it('at the very end is the end, however its last digit was rounded', () => {
    const lengthS = 4.299_999_999_2;
    expect(momentIn(4.3, lengthS, 0.005)).toBe(lengthS);
    expect(momentIn(-0.001, lengthS, 0.005)).toBe(0);
    expect([momentIn(4.31, lengthS, 0.005), momentIn(2, lengthS, 0.005)]).toEqual([4.31, 2]);
    expect(momentIn(Number.NaN, lengthS, 0.005)).toBeNaN();
  });
});
