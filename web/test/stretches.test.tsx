import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { Stretches, duration } from '../src/pages/runs/Stretches.tsx';
import { lampsOf } from '@lucky-needle/core/calibrate';
import { strengthStage } from '../src/pages/trueup/guided/SampleCard.tsx';
import { afterRest } from '../src/parts/afterRest.ts';
import { handOnAxis } from '../src/parts/handOnAxis.ts';
import { StretchSteps } from '../src/parts/StretchSteps.tsx';
import type { StretchesAnswer } from '@lucky-needle/core/model';

const channels = [
  { id: 'a', name: 'Blow', unit: 'N' as const, isDirection: false, low: 0, high: 100 },
  { id: 'b', name: 'Warmth', unit: 'degC' as const, isDirection: false, low: 10, high: 30 },
  { id: 'v', name: 'Vane', unit: 'deg' as const, isDirection: true, low: 2, high: 358 },
];
const one = (cutShort: boolean): StretchesAnswer => ({
  stretches: [{ startS: 105, endS: 107.5, extreme: 81.25, extremeS: 106, cutShort }],
  count: 1,
  togetherS: 2.5,
});

describe('Sections', () => {
  const show = (found: StretchesAnswer | null) => {
    const onFind = vi.fn();
    const onLook = vi.fn();
    const props = { channels, error: null, startS: 100, onFind, onLook };
    const { rerender } = render(<Stretches {...props} found={null} />);
    return { onFind, onLook, answer: () => rerender(<Stretches {...props} found={found} />) };
  };
  const find = async (level: string) => {
    await userEvent.type(screen.getByLabelText(/^Level/), level);
    await userEvent.click(screen.getByRole('button', { name: 'Find' }));
  };

  it('asks for a level with a fiftieth of the range to come back by, and lists what is found', async () => {
    const { onFind, onLook, answer } = show(one(false));
    await find('40,5');
    expect(onFind).toHaveBeenCalledWith({
      channelId: 'a',
      rule: { side: 'above', level: 40.5, comesBack: 2 },
      untilDeg: null,
    });
    answer();
    expect(screen.getByRole('status')).toHaveTextContent('1 section above that level, 2.50 s long.');
    const row = within(screen.getByRole('table', { name: 'Sections' })).getAllByRole('row')[1]!;
    expect(row).toHaveTextContent(/5.00 s2.50 s81.25 N/);
    await userEvent.click(within(row).getByRole('button', { name: 'Show' }));
    expect(onLook).toHaveBeenCalledWith(2.5, 10);
  });

  it('says that a stretch at an end may be longer, and when there is none', async () => {
    const cut = show(one(true));
    await find('40');
    cut.answer();
    expect(screen.getByRole('table')).toHaveTextContent('at least 2.50 s');
  });

  it('says so when the level is never passed', async () => {
    const none = show({ stretches: [], count: 0, togetherS: 0 });
    await userEvent.selectOptions(screen.getByLabelText('Above or below'), 'below');
    await find('-5');
    expect(none.onFind).toHaveBeenCalledWith(
      expect.objectContaining({ rule: { side: 'below', level: -5, comesBack: 2 } }),
    );
    none.answer();
    expect(screen.getByRole('status')).toHaveTextContent('No readings below that level');
    await userEvent.click(screen.getByRole('button', { name: 'Clear' }));
    expect(none.onFind).toHaveBeenLastCalledWith(null);
  });

  it('asks a direction for a sector, clockwise across north', async () => {
    const { onFind, answer } = show(one(false));
    await userEvent.selectOptions(screen.getByLabelText('Channel'), 'v');
    await userEvent.type(screen.getByLabelText(/^From/), '350');
    expect(screen.getByRole('alert')).toHaveTextContent('clockwise from the first');
    await userEvent.type(screen.getByLabelText(/^Clockwise to/), '10');
    await userEvent.click(screen.getByRole('button', { name: 'Find' }));
    expect(onFind).toHaveBeenCalledWith({
      channelId: 'v',
      rule: { side: 'above', level: 350, comesBack: 5 },
      untilDeg: 10,
    });
    answer();
    expect(screen.getByRole('status')).toHaveTextContent('1 section in that sector');
  });

  it('refuses what is no number, and a way back that is negative', async () => {
    const { onFind } = show(null);
    await find('4o');
    expect(screen.getByRole('alert')).toHaveTextContent('“4o” is not a number.');
    await userEvent.clear(screen.getByLabelText(/^Level/));
    await userEvent.type(screen.getByLabelText(/^Hysteresis/), '-1');
    await find('40');
    expect(screen.getByRole('alert')).toHaveTextContent('0 or more');
    expect(onFind).not.toHaveBeenCalled();
  });

  it('tells seconds, minutes and hours', () => {
    expect([0.0123, 0.01, 0.011, 5, 119, 240, 8000].map(duration)).toEqual([
      '0.012 s',
      '0.010 s',
      '0.011 s',
      '5.00 s',
      '119 s',
      '4.00 min',
      '2.22 h',
    ]);
  });
});

describe('the stretch that is shown', () => {
  it('is told beside the buttons, in digits that tell its ends apart', () => {
    const props = { lengthS: 10_000, leastS: 0.01, unit: 'min' as const, onZoom: () => {} };
    const { rerender } = render(<StretchSteps {...props} fromS={0} toS={10_000} />);
    const group = screen.getByRole('group', { name: 'Section' });
    expect(group).toHaveTextContent('all 167 min');
    rerender(<StretchSteps {...props} fromS={600} toS={606} />);
    expect(group).toHaveTextContent('10.000 to 10.100 min');
    rerender(<StretchSteps {...props} unit="s" fromS={600} toS={606} />);
    expect(group).toHaveTextContent('600.00 to 606.00 s');
  });
});

describe('afterRest', () => {
  afterEach(() => vi.useRealTimers());
  it('does once, with the newest, what was asked for many times', () => {
    vi.useFakeTimers();
    const done = vi.fn();
    const ask = afterRest(done, 100);
    for (let i = 0; i < 5; i++) {
      ask(i);
      vi.advanceTimersByTime(50);
    }
    expect(done).not.toHaveBeenCalled();
    vi.advanceTimersByTime(100);
    expect(done.mock.calls).toEqual([[4]]);
  });
});

describe('lamps of the dye checker', () => {
  const { channels: all } = TEMPLATES.find((t) => t.id === 'absorbance')!.make();
  it('are one a column: the strength is worked on from one of them', () => {
    expect(all).toHaveLength(6);
    expect(lampsOf(all).map((c) => c.name)).toEqual(['470 nm', '525 nm', '560 nm', '590 nm', '625 nm']);
  });
  it('only the strength has a stage for standards, unless it is off', () => {
    expect(all.filter((c) => strengthStage(c.line)).map((c) => c.id)).toEqual(['strength']);
    const { line } = all.at(-1)!;
    expect(strengthStage({ ...line, stages: line.stages.map((s) => ({ ...s, off: true })) })).toBeUndefined();
  });
});

describe('a hand on the axis', () => {
  afterEach(() => vi.useRealTimers());
  const at = (min: number, max: number) => ({ chart: { scales: { x: { min, max } } } });
  const start = () => {
    vi.useFakeTimers();
    const select = vi.fn();
    return { select, hand: handOnAxis(select, 100) };
  };

  it('holds the stretch that was zoomed to until it is told, whatever an earlier look draws', () => {
    const { select, hand } = start();
    const chart = at(10, 60);
    hand.zoomed(chart);
    hand.zoomed(at(20, 40));
    chart.chart.scales.x = { min: 0, max: 100 };
    expect(hand.held()).toEqual({ from: 20, to: 40 });
    vi.advanceTimersByTime(100);
    expect(select.mock.calls).toEqual([[{ from: 20, to: 40 }]]);
    expect(hand.held()).toBeNull();
  });

  it('tells a drag once it is over, and does not take it back by a zoom before it', () => {
    const { select, hand } = start();
    hand.zoomed(at(20, 40));
    hand.panned(at(25, 45));
    expect(hand.held()).toEqual({ from: 25, to: 45 });
    hand.panDone(at(30, 50));
    vi.advanceTimersByTime(1000);
    expect(select.mock.calls).toEqual([[{ from: 30, to: 50 }]]);
  });

  it('tells nothing of a plot without an abscissa', () => {
    const { select, hand } = start();
    hand.zoomed({ chart: { scales: {} } });
    vi.advanceTimersByTime(100);
    expect(select).not.toHaveBeenCalled();
  });
});
