import { describe, expect, it } from 'vitest';
import type { Calibration, Gadget, Recording } from '@lucky-needle/core/model';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { problemOf } from '../src/api/problemOf.ts';
import { draftsSlice, lineChanged, lineRedone, lineSettled, lineUndone } from '../src/app/drafts.ts';
import { stepsOf } from '../src/app/steps.ts';
import { toastClosed, toastShown, toastsSlice } from '../src/app/toasts.ts';
import { fromForm, toForm } from '../src/pages/brief/briefForm.ts';

const gadget = (template = 0, change: Partial<Gadget> = {}): Gadget => ({
  id: 'g',
  template: TEMPLATES[template]!.id,
  name: 'Probes',
  version: 1,
  createdAt: '2026-11-24T09:00:00Z',
  updatedAt: '2026-11-24T09:00:00Z',
  ...TEMPLATES[template]!.make(),
  ...change,
});

describe('the brief form', () => {
  it('comes back to the same brief for every kind of fastest event', () => {
    for (const fastest of [
      { kind: 'ramp', ratePerS: 0.3 },
      { kind: 'pulse', widthS: 0.005 },
      { kind: 'tone', frequencyHz: 50 },
    ] as const) {
      const g = gadget(0, { brief: { ...gadget().brief!, fastest } });
      expect(fromForm(toForm(g))).toEqual({ brief: g.brief, place: g.place });
    }
  });
  it('proposes something sensible for an empty brief', () => {
    expect(fromForm(toForm(gadget(1))).brief).toMatchObject({ unit: 'degC', low: 0, high: 100 });
  });
});

describe('line drafts', () => {
  const line = (seriesOhm: number) => ({
    ...gadget().channels[0]!.line,
    stages: gadget().channels[0]!.line.stages.map((s) =>
      s.id === 'divider' ? { ...s, params: { ...s.params, seriesOhm } } : s,
    ),
  });
  const { reducer } = draftsSlice;
  const ohm = (state: ReturnType<typeof reducer>) => state['k']!.present.stages[1]!.params['seriesOhm'];

  it('undoes to what was saved, redoes, and forgets the future on a new change', () => {
    const saved = line(3300);
    let state = reducer({}, lineChanged({ key: 'k', saved, line: line(2700) }));
    state = reducer(state, lineChanged({ key: 'k', saved, line: line(2200) }));
    state = reducer(state, lineUndone('k'));
    expect(ohm(state)).toBe(2700);
    state = reducer(state, lineUndone('k'));
    expect(ohm(state)).toBe(3300);
    expect(reducer(state, lineUndone('k'))).toEqual(state);
    state = reducer(state, lineRedone('k'));
    expect(ohm(state)).toBe(2700);
    state = reducer(state, lineChanged({ key: 'k', saved, line: line(1000) }));
    expect(reducer(state, lineRedone('k'))).toEqual(state);
    expect(reducer(state, lineSettled('k'))).toEqual({});
  });
});

describe('toasts', () => {
  it('keeps the newest three and closes by name', () => {
    const { reducer } = toastsSlice;
    let state = reducer([], { type: 'none' });
    for (const text of ['a', 'b', 'c', 'd']) state = reducer(state, toastShown({ text, tone: 'done' }));
    expect(state.map((t) => t.text)).toEqual(['b', 'c', 'd']);
    expect(reducer(state, toastClosed(state[0]!.id)).map((t) => t.text)).toEqual(['c', 'd']);
  });
});

describe('the steps', () => {
  const bench = (g: Gadget, more: { calibrations?: Calibration[]; recordings?: Recording[] } = {}) => ({
    gadget: g,
    points: [],
    calibrations: more.calibrations ?? [],
    recordings: more.recordings ?? [],
    link: null,
  });
  const figure = (path: string, ...args: Parameters<typeof stepsOf>) =>
    stepsOf(...args).find((s) => s.path === path)!;

  it('say what they wait for on an empty gadget', () => {
    const steps = stepsOf(bench(gadget(1)), null);
    expect(steps.map((s) => s.state)).toEqual(Array(9).fill('open'));
    expect(steps.map((s) => s.figure).slice(0, 4)).toEqual([
      'start here',
      'waits for the brief',
      'no board yet',
      'raw counts only',
    ]);
  });

  it('show the one figure that matters', () => {
    const full = gadget(0, {
      pick: { partId: 'ntc-bead-10k', reason: '' },
      hookup: {
        boardId: 'small-8-bit',
        displayId: 'character-20x4',
        pins: ['A0', 'A1', 'A2', 'A3'].map((pin, i) => ({ channelId: `p${i + 1}`, pin })),
      },
    });
    const steps = stepsOf(bench(full), { shown: 20, of: 20, failed: false });
    expect(steps.slice(0, 4).map((s) => s.figure)).toEqual([
      '0…110 °C, ±1',
      'NTC bead probe ×4',
      '4 of 6 analog',
      '5 stages, 1.0 s lag',
    ]);
    expect(steps.find((s) => s.path === 'prove')!.state).toBe('done');
  });

  it('turn to trouble on a clash, a contradiction or a failed claim', () => {
    const clash = gadget(0, {
      hookup: { boardId: 'small-8-bit', displayId: 'character-20x4', pins: [{ channelId: 'p1', pin: 'A4' }] },
    });
    expect(figure('hook-up', bench(clash), null)).toMatchObject({
      state: 'trouble',
      figure: '4 pin clashes',
    });
    const upside = gadget(0, { brief: { ...gadget().brief!, low: 500 } });
    expect(figure('brief', bench(upside), null).state).toBe('trouble');
    expect(figure('prove', bench(gadget()), { shown: 3, of: 5, failed: true }).state).toBe('trouble');
  });

  it('count runs that were left out apart', () => {
    const run = (excluded: string | null) => ({ state: 'closed', excluded }) as Recording;
    expect(
      figure('runs', bench(gadget(), { recordings: [run(null), run(null), run('door open')] }), null).figure,
    ).toBe('2 kept, 1 out');
  });
});

describe('problemOf', () => {
  const problem = { type: 't', title: 't', status: 412, detail: 'd', code: 'stale-version', wayOut: 'w' };
  it('reads a problem however it was parsed', () => {
    expect(problemOf({ status: 412, data: problem })).toEqual(problem);
    expect(problemOf({ status: 412, data: JSON.stringify(problem) })).toEqual(problem);
    expect(problemOf(undefined)).toBeNull();
  });
  it('has words of its own when the server cannot be reached or answers nonsense', () => {
    expect(problemOf({ status: 'FETCH_ERROR', error: 'x' })).toMatchObject({
      code: 'unreachable',
      status: 0,
    });
    expect(problemOf({ status: 502, data: '<html>' })).toMatchObject({ code: 'unreachable', status: 502 });
  });
});
