import { describe, expect, it } from 'vitest';
import type { WatchedEvent } from '../src/detect/index.ts';
import type { TrialNote, TrialRule } from '../src/model/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { TEMPLATES } from '../src/plan/index.ts';
import {
  createTrialCutter,
  firstRule,
  rankGroups,
  ruleFault,
  withNotes,
  type CutStretch,
} from '../src/trial/index.ts';
import { familyGadget } from './support/familyGadget.ts';

const rule = (more: Partial<TrialRule>): TrialRule => ({
  channelId: 'c',
  how: 'run',
  watchId: null,
  endWatchId: null,
  figureId: null,
  more: true,
  ...more,
});
const event = (watchId: string, timeS: number, more: Partial<WatchedEvent> = {}): WatchedEvent => ({
  what: 'event',
  watchId,
  timeS,
  endS: timeS,
  at: 0,
  value: 0,
  area: 0,
  uTimeS: 0,
  lagS: 0,
  counted: true,
  why: '',
  ...more,
});

function cutBy(of: TrialRule, feed: (cutter: ReturnType<typeof createTrialCutter>) => void) {
  const found: CutStretch[] = [];
  const cutter = createTrialCutter(of, 0, (stretch) => found.push(stretch));
  feed(cutter);
  return { found: found.map((f) => [f.fromS, f.toS]), openS: cutter.openS() };
}

describe('cutting a run into trials', () => {
  it('takes each event that counts, with its own begin and end', () => {
    const { found, openS } = cutBy(rule({ how: 'event', watchId: 'blow' }), (c) => {
      c.event(event('blow', 1, { endS: 1.2 }));
      c.event(event('blow', 2, { counted: false }));
      c.event(event('other', 3));
      c.event(event('blow', 4, { what: 'start' }));
      c.event(event('blow', 4, { endS: 4.5 }));
      c.event(event('blow', 6, { what: 'start' }));
    });
    expect(found).toEqual([
      [1, 1.2],
      [4, 4.5],
    ]);
    expect(openS).toBe(6);
  });

  it('goes from a start to the next finish: a start that is given again takes its place, a finish without one is none', () => {
    const { found, openS } = cutBy(rule({ how: 'between', watchId: 'go', endWatchId: 'in' }), (c) => {
      c.event(event('in', 0.5));
      c.event(event('go', 1));
      c.event(event('go', 2));
      c.event(event('in', 9));
      c.event(event('in', 9.5));
      c.event(event('go', 12));
      c.end(20);
    });
    expect(found).toEqual([[2, 9]]);
    expect(openS).toBeNull();
  });

  it('goes from mark to mark, and takes the rest of the run', () => {
    const { found } = cutBy(rule({ how: 'marks' }), (c) => {
      c.mark(5);
      c.mark(5);
      c.mark(8);
      c.end(11);
    });
    expect(found).toEqual([
      [0, 5],
      [5, 8],
      [8, 11],
    ]);
  });

  it('takes a run whole, once it is over', () => {
    const whole = rule({ how: 'run' });
    expect(cutBy(whole, (c) => c.mark(5))).toEqual({ found: [], openS: 0 });
    expect(cutBy(whole, (c) => c.end(7)).found).toEqual([[0, 7]]);
  });
});

describe('the rule that a gadget begins with', () => {
  it('can cut the runs of every family that makes figures', () => {
    const rules = TEMPLATES.filter((t) => t.family !== null).map((t) => {
      const gadget = familyGadget(t.family!);
      const first = firstRule(gadget);
      return [t.id, first && ruleFault(first, gadget), first?.how] as const;
    });
    expect(rules.every(([, fault]) => fault === null)).toBe(true);
    const how = Object.fromEntries(rules.map(([id, , by]) => [id, by]));
    expect(how).toMatchObject({
      'crossing-timer': 'between',
      'impact-peak': 'event',
      sprint: 'event',
      rotation: 'run',
    });
  });

  it('ranks times from the shortest, and sizes from the largest', () => {
    expect(firstRule(familyGadget(6))!.more).toBe(true);
    const race = TEMPLATES.find((t) => t.id === 'crossing-timer')!;
    expect(firstRule(familyGadget(race.family!))!.more).toBe(false);
  });

  it('is told what is wrong with it, with the way out', () => {
    const gadget = familyGadget(6);
    const first = firstRule(gadget)!;
    expect(ruleFault({ ...first, channelId: 'gone' }, gadget)).toMatch(/was removed. Choose another/);
    expect(ruleFault({ ...first, watchId: 'gone' }, gadget)).toMatch(
      /event that defines a trial .* was removed/,
    );
    expect(ruleFault({ ...first, how: 'between', endWatchId: first.watchId }, gadget)).toMatch(
      /are the same/,
    );
    expect(firstRule({ channels: [] })).toBeNull();
  });
});

describe('what is said of trials', () => {
  const bare = (recordingId: string, fromS: number, toS: number) => ({
    id: `${recordingId}@${fromS}`,
    recordingId,
    runName: 'R',
    number: 1,
    fromS,
    toS,
    at: '2026-01-01T00:00:00Z',
    isOpen: false,
    figures: [],
  });
  const note = (recordingId: string, atS: number, label: string): TrialNote => ({
    recordingId,
    atS,
    label,
    note: '',
    excluded: null,
  });

  it('stays with its trial when the rule cuts a little elsewhere, and is told when its trial is gone', () => {
    const notes = [note('r', 1, 'A'), note('r', 4, 'B'), note('s', 1, 'C')];
    const { trials, lost } = withNotes([bare('r', 1.2, 1.5), bare('r', 9, 9.5)], notes);
    expect(trials.map((t) => t.label)).toEqual(['A', '']);
    expect(lost.map((n) => n.label)).toEqual(['B', 'C']);
    expect(withNotes([], []).trials).toEqual([]);
  });

  it('of several in one trial counts as said nearest to its begin, and where it was said is told', () => {
    const notes = [note('r', 1, 'whole'), note('r', 4, 'second'), note('r', 7, 'third')];
    const { trials, lost } = withNotes([bare('r', 1, 9)], notes);
    expect(trials.map((t) => [t.label, t.saidAtS])).toEqual([['whole', 1]]);
    expect(lost).toEqual([]);
    expect(withNotes([bare('r', 1.2, 3)], [note('r', 1, 'A')]).trials[0]!.saidAtS).toBe(1);
    expect(withNotes([bare('r', 1, 9)], []).trials[0]!.saidAtS).toBeNull();
  });

  it('is of the nearest of two that lie close', () => {
    const { trials } = withNotes([bare('r', 1, 1.1), bare('r', 1.4, 1.5)], [note('r', 1.42, 'late')]);
    expect(trials.map((t) => t.label)).toEqual(['', 'late']);
  });
});

describe('ranking what was tried', () => {
  const tried = (label: string, values: readonly number[]) => values.map((value) => ({ label, value }));

  it('puts the best mean first, with its interval, whichever way is better', () => {
    const all = [...tried('A', [10, 11, 12]), ...tried('B', [20, 21, 22]), ...tried('once', [15])];
    const more = rankGroups(all, true);
    expect(more.groups.map((g) => g.label)).toEqual(['B', 'once', 'A']);
    expect(more.groups[0]).toMatchObject({ n: 3, mean: 21, median: 21, best: 22 });
    // t(0.975, 2) = 4.303, sd 1, n 3.
    expect(more.groups[0]!.half95).toBeCloseTo(4.3027 / Math.sqrt(3), 3);
    expect(more.groups[1]!.sd).toBeNaN();
    const less = rankGroups(all, false);
    expect(less.groups.map((g) => g.label)).toEqual(['A', 'once', 'B']);
    expect(less.groups[0]!.best).toBe(10);
    // A single one of the second says nothing of its scatter.
    expect(more.lead).toBeNull();
  });

  it('knows no interval of trials that are all alike: what they scatter by is not seen', () => {
    const { groups, lead } = rankGroups([...tried('A', [0, 0]), ...tried('B', [3, 3, 3])], true);
    expect(groups.map((g) => g.half95)).toEqual([Number.NaN, Number.NaN]);
    expect(lead!.isShown).toBe(false);
    expect(lead!.refused).toMatch(/display resolution|finer resolution/);
  });

  it('says that the first is better only where scatter does not explain it, and how many more would tell', () => {
    const close = rankGroups(
      [...tried('A', [10, 11, 12, 10.5]), ...tried('B', [10.4, 11.6, 12.1, 10.7])],
      true,
    );
    expect(close.lead).toMatchObject({ isShown: false, refused: null });
    expect(close.lead!.needed!).toBeGreaterThan(20);
    const far = rankGroups(
      [...tried('A', [10, 11, 12, 10.5]), ...tried('B', [20.4, 21.6, 22.1, 20.7])],
      true,
    );
    expect(far.lead).toMatchObject({ isShown: true, needed: null });
    expect(far.lead!.by).toBeCloseTo(10.325, 6);
  });

  it('is right about it in 93 to 99 of 100 where there is no difference', () => {
    let wrong = 0;
    for (let seed = 1; seed <= 300; seed++) {
      const random = seededRandom(seed);
      const of = (label: string, sd: number) =>
        tried(
          label,
          Array.from({ length: 6 }, () => sd * random.normal()),
        );
      if (rankGroups([...of('A', 1), ...of('B', 3)], true).lead!.isShown) wrong++;
    }
    expect(wrong / 300).toBeGreaterThan(0.01);
    expect(wrong / 300).toBeLessThan(0.07);
  });
});
