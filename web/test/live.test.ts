import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { encodeReadings, encodeSampleBlock } from '@lucky-needle/core/formats';
import { tagsOf, TAGS } from '../src/api/api.ts';
import { LiveClient } from '../src/live/liveClient.ts';

/** Stands in for the browser's socket: the test plays the server. */
class FakeSocket {
  static readonly OPEN = 1;
  static all: FakeSocket[] = [];
  readonly sent: string[] = [];
  readyState = 0;
  binaryType = '';
  onopen: () => void = () => {};
  onmessage: (event: { data: unknown }) => void = () => {};
  onclose: () => void = () => {};
  constructor() {
    FakeSocket.all.push(this);
  }
  send(text: string) {
    this.sent.push(text);
  }
  open() {
    this.readyState = 1;
    this.onopen();
  }
  drop() {
    this.readyState = 3;
    this.onclose();
  }
}

const block = (gadgetId: string, times: number[], values: number[]) =>
  encodeSampleBlock({
    header: { columns: [{ name: 'p1', unit: 'count' }], count: times.length, reducedBy: 1, gadgetId },
    times: Float64Array.from(times),
    columns: [Float64Array.from(values)],
  });

beforeEach(() => {
  FakeSocket.all = [];
  vi.stubGlobal('WebSocket', FakeSocket);
  vi.useFakeTimers();
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('LiveClient', () => {
  it('asks for its gadget, appends what comes, and passes over another gadget’s', () => {
    const client = new LiveClient();
    client.watch('a');
    const socket = FakeSocket.all[0]!;
    socket.open();
    expect(JSON.parse(socket.sent[0]!)).toEqual({ type: 'watch', gadgetId: 'a' });
    socket.onmessage({ data: block('a', [1, 2], [10, 20]) });
    socket.onmessage({ data: block('b', [9], [99]) });
    socket.onmessage({ data: block('a', [3], [30]) });
    expect(Array.from(client.current().columns.get('p1')!)).toEqual([10, 20, 30]);
    expect(Array.from(client.current().times)).toEqual([1, 2, 3]);
  });

  it('keeps a minute of rows, however many a second come', () => {
    const client = new LiveClient();
    client.watch('a');
    FakeSocket.all[0]!.open();
    const seconds = Array.from({ length: 400_000 }, (_, i) => i / 2000);
    FakeSocket.all[0]!.onmessage({ data: block('a', seconds, seconds) });
    const { times } = client.current();
    expect(times.at(-1)).toBe(199.9995);
    expect(times.at(-1)! - times[0]!).toBeGreaterThanOrEqual(60);
    expect(times.length).toBeLessThanOrEqual(200_000);
  });

  it('takes the readings that it is told, stage by stage, and begins anew when lines are set up', () => {
    const client = new LiveClient();
    client.watch('a');
    const socket = FakeSocket.all[0]!;
    socket.open();
    const told = (values: number[], from: number) =>
      encodeReadings({
        gadgetId: 'a',
        parts: [1, 2].map((stage) => ({
          channelId: 'c',
          stage,
          times: Float64Array.from(values, (_, i) => from + i),
          values: Float64Array.from(values, (v) => stage * v),
          reasons: new Float64Array(values.length),
        })),
      });
    const setUp = { type: 'bench', gadgetId: 'a', sampleRateHz: 10, channels: [] };
    socket.onmessage({ data: JSON.stringify(setUp) });
    socket.onmessage({ data: told([1, 2], 0) });
    socket.onmessage({ data: told([3], 2) });
    const stages = client.current().readings.get('c')!;
    expect(stages.map((s) => Array.from(s.values))).toEqual([
      [1, 2, 3],
      [2, 4, 6],
    ]);
    expect(Array.from(stages[1]!.times)).toEqual([0, 1, 2]);
    expect(client.current().lines).toEqual({ sampleRateHz: 10, channels: [] });
    socket.onmessage({ data: JSON.stringify(setUp) });
    expect(client.current().readings.size).toBe(0);
  });

  it('says when the server is gone, tries again ever more slowly, and takes up where it was', async () => {
    const client = new LiveClient();
    const heard = vi.fn();
    client.subscribe(heard);
    client.watch('a');
    FakeSocket.all[0]!.open();
    expect(client.current().connected).toBe(true);
    FakeSocket.all[0]!.drop();
    expect(client.current().connected).toBe(false);
    vi.advanceTimersByTime(600);
    expect(FakeSocket.all).toHaveLength(2);
    FakeSocket.all[1]!.drop();
    vi.advanceTimersByTime(600);
    expect(FakeSocket.all).toHaveLength(2);
    vi.advanceTimersByTime(600);
    expect(FakeSocket.all).toHaveLength(3);
    FakeSocket.all[2]!.open();
    expect(JSON.parse(FakeSocket.all[2]!.sent[0]!)).toEqual({ type: 'watch', gadgetId: 'a' });
    expect(client.current().connected).toBe(true);
    await Promise.resolve();
    expect(heard).toHaveBeenCalled();
  });

  it('tells what has changed on the server, and starts clean for another gadget', () => {
    const client = new LiveClient();
    const changed = vi.fn();
    client.onChanged = changed;
    client.watch('a');
    const socket = FakeSocket.all[0]!;
    socket.open();
    socket.onmessage({ data: JSON.stringify({ type: 'changed', gadgetId: 'a', what: 'points' }) });
    socket.onmessage({ data: JSON.stringify({ type: 'changed', gadgetId: 'b', what: 'points' }) });
    expect(changed.mock.calls).toEqual([['points']]);
    socket.onmessage({ data: block('a', [1], [1]) });
    client.watch('b');
    expect(client.current()).toMatchObject({ gadgetId: 'b', status: null });
    expect(client.current().times).toHaveLength(0);
  });
});

describe('what changes on the server', () => {
  it('names what is fetched again, and no more than that', () => {
    expect(tagsOf('points')).toEqual(['points', 'logbook']);
    expect(tagsOf('logbook')).toEqual(['logbook']);
    expect(tagsOf('workspace')).toEqual([...TAGS]);
  });
});
