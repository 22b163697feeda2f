import { describe, expect, it } from 'vitest';
import type { Calibration, Gadget, ProofAnswer, Recording } from '@lucky-needle/core/model';
import { PLAIN_HOOKUP, planOf, SHELF, TEMPLATES } from '@lucky-needle/core/plan';
import { problemOf } from '../src/api/problemOf.ts';
import { draftsSlice, lineChanged, lineRedone, lineSettled, lineUndone } from '../src/app/drafts.ts';
import { stepsOf } from '../src/app/steps.ts';
import { toastClosed, toastShown, toastsSlice } from '../src/app/toasts.ts';
import { fromForm, isComplete, newAsk, toForm } from '../src/pages/brief/briefForm.ts';

const EMPTY = TEMPLATES.findIndex((t) => t.id === 'empty');
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
  const sections = ({ brief, place, channels, picks, sampleRateHz }: Gadget) => ({
    brief,
    place,
    channels,
    picks,
    sampleRateHz,
  });

  it('comes back to the same brief for every family and every kind of fastest event', () => {
    const families = TEMPLATES.map((t, i) => [t, i] as const).filter(([t]) => t.family !== null);
    for (const [, i] of families) expect(fromForm(toForm(gadget(i)), gadget(i))).toEqual(sections(gadget(i)));
    const kinds = new Set(families.flatMap(([t]) => t.make().brief!.asks.map((a) => a.fastest.kind)));
    expect([...kinds].toSorted()).toEqual(['crossing', 'edges', 'pulse', 'ramp', 'tone']);
  });
  it('proposes something sensible for an empty brief', () => {
    const empty = gadget(EMPTY);
    const { brief } = fromForm(toForm(empty), empty);
    expect(brief.asks[0]).toMatchObject({ unit: 'degC', low: 0, high: 100 });
    expect(brief.asks[0]!.id).toBe(empty.channels[0]!.askId);
  });
  it('takes channels and picks along when an ask leaves', () => {
    const g = gadget(0, {
      picks: [{ slot: 'temperature', partId: 'ntc-bead-10k', converterId: null, reason: '' }],
    });
    const form = toForm(g);
    const other = { ...newAsk('a2'), quantity: 'Humidity', channels: 2 };
    const both = fromForm({ ...form, asks: [...form.asks, other] }, g);
    expect(both.channels.map((c) => c.askId)).toEqual([...Array(4).fill('temperature'), 'a2', 'a2']);
    expect(both.picks).toEqual(g.picks);
    const gone = fromForm({ ...form, asks: [other] }, g);
    expect(gone.channels.map((c) => c.askId)).toEqual(['a2', 'a2']);
    expect(gone.picks).toEqual([]);
  });
  it('waits for figures that are half typed', () => {
    const form = toForm(gadget());
    expect(isComplete(form)).toBe(true);
    for (const change of [{ low: Number.NaN }, { tolerance: 0 }, { fastestValue: Number.NaN }])
      expect(isComplete({ ...form, asks: [{ ...form.asks[0]!, ...change }] })).toBe(false);
    expect(isComplete({ ...form, sampleRateHz: 0 })).toBe(false);
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
  type Shown = Pick<ProofAnswer, 'shown' | 'of' | 'failed'>;
  const bench = (
    g: Gadget,
    shown: Shown | null,
    more: { calibrations?: Calibration[]; recordings?: Recording[] } = {},
  ) => ({
    gadget: g,
    points: [],
    evidence: [],
    calibrations: more.calibrations ?? [],
    recordings: more.recordings ?? [],
    studies: [],
    proof: { proof: shown && { ...shown, sentence: '', next: null, channels: [] }, problem: null },
    link: null,
  });
  const stepsFor = (g: Gadget, shown: Shown | null = null, more = {}) =>
    stepsOf(bench(g, shown, more), planOf(g, SHELF));
  const figure = (path: string, ...args: Parameters<typeof stepsFor>) =>
    stepsFor(...args).find((s) => s.path === path)!;
  const picks = (slots: Record<string, string>) =>
    Object.entries(slots).map(([slot, partId]) => ({ slot, partId, converterId: null, reason: '' }));

  it('say what they wait for on an empty gadget', () => {
    const steps = stepsFor(gadget(EMPTY));
    expect(steps.map((s) => s.state)).toEqual(Array(9).fill('open'));
    expect(steps.map((s) => s.figure).slice(0, 4)).toEqual([
      'start here',
      'needs the brief',
      'no board picked',
      'raw counts only',
    ]);
  });

  const kiln = { temperature: 'ntc-bead-10k', board: 'small-8-bit', display: 'character-20x4' };

  it('show the one figure that matters', () => {
    const steps = stepsFor(gadget(0, { picks: picks(kiln) }), { shown: 20, of: 20, failed: false });
    expect(steps.slice(0, 4).map((s) => s.figure)).toEqual([
      '0…110 °C and 3 more',
      'NTC bead probe',
      '6 of 20 pins',
      '5 stages, 1.0 s lag',
    ]);
    expect(steps.find((s) => s.path === 'prove')!.state).toBe('done');
  });

  it('count what is still to pick, and name a part that has left the shelf', () => {
    const gas = TEMPLATES.findIndex((t) => t.id === 'gas-watch');
    expect(figure('pick', gadget(gas)).figure).toBe('no sensor picked');
    expect(figure('pick', gadget(gas, { picks: picks({ ferment: 'heated-ferment' }) }))).toMatchObject({
      state: 'part',
      figure: '2 of 3 to pick',
    });
    expect(figure('pick', gadget(0, { picks: picks({ ...kiln, temperature: 'sold' }) }))).toMatchObject({
      state: 'trouble',
      figure: 'a part is no longer on the shelf',
    });
  });

  it('say what is shown only once the server has told, and of nothing that it waits', () => {
    expect(figure('prove', gadget(0)).figure).toBe('not evaluated yet');
    expect(figure('prove', gadget(0), { shown: 0, of: 0, failed: false }).figure).toBe('needs the line');
    expect(figure('prove', gadget(0), { shown: 2, of: 5, failed: false })).toMatchObject({
      state: 'part',
      figure: '2 of 5 passed',
    });
  });

  it('turn to trouble on a clash, a contradiction or a failed claim', () => {
    const clash = gadget(0, {
      picks: picks(kiln),
      hookup: { ...PLAIN_HOOKUP, pins: [{ needId: 'temperature.1.a1', pin: 'D2' }] },
    });
    expect(figure('hook-up', clash)).toMatchObject({ state: 'trouble', figure: '1 pin conflict' });
    const [ask] = gadget().brief!.asks;
    const upside = gadget(0, { brief: { ...gadget().brief!, asks: [{ ...ask!, low: 500 }] } });
    expect(figure('brief', upside).state).toBe('trouble');
    expect(figure('prove', gadget(), { shown: 3, of: 5, failed: true }).state).toBe('trouble');
  });

  it('count runs that were left out apart', () => {
    const run = (excluded: string | null) => ({ state: 'closed', excluded }) as Recording;
    expect(
      figure('runs', gadget(), null, { recordings: [run(null), run(null), run('door open')] }).figure,
    ).toBe('2 runs, 1 excluded');
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
