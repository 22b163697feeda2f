import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { detectorKind } from '@lucky-needle/core/detect';
import { figureKind } from '@lucky-needle/core/figures';
import type { FigureSpec, NowFigure, SeenEvent, WatchSpec } from '@lucky-needle/core/model';
import { FigureTiles } from '../src/pages/line/counts/FigureTiles.tsx';
import { NewestEvents } from '../src/pages/line/counts/NewestEvents.tsx';
import { WatchFields } from '../src/pages/line/counts/WatchFields.tsx';
import { eventOverlay } from '../src/parts/counts/eventOverlay.ts';
import { figureText, tallyOf, worthText } from '../src/parts/counts/figureText.ts';
import { roundTheCircle } from '../src/parts/roundTheCircle.ts';

const watch = (change: Partial<WatchSpec> = {}): WatchSpec => ({
  id: 'blow',
  name: 'Blow',
  kind: 'pulse',
  column: null,
  params: { ...detectorKind('pulse')!.defaults, level: 150, hysteresis: 75 },
  deadTimeS: 0,
  after: null,
  leastS: 0,
  ...change,
});
const event = (change: Partial<SeenEvent> = {}): SeenEvent => ({
  watchId: 'blow',
  what: 'event',
  timeS: 10,
  endS: 10.012,
  at: 1200,
  value: 1200,
  area: 9,
  uTimeS: 0.001,
  counted: true,
  why: '',
  ...change,
});
const now = (change: Partial<NowFigure> = {}): NowFigure => ({
  id: 'last',
  name: 'Last impact',
  value: 1234.5,
  unit: 'N',
  uncertainty: 30,
  decimals: 0,
  reason: null,
  how: 'The last of 3.',
  timeS: 10,
  sinceS: 0,
  tolerance: 50,
  ...change,
});

describe('a figure in words', () => {
  it('has its unit, its digits and what it is worth', () => {
    expect(figureText(now())).toBe('1235 N');
    expect(worthText(now())).toBe('±30');
    expect(worthText(now({ uncertainty: null }))).toBe('± unknown');
    expect(figureText(now({ value: null, reason: 'Waiting.' }))).toBe('–');
    expect(worthText(now({ value: null }))).toBe('');
  });

  it('counts what counted and what did not; begins are told with their end', () => {
    const events = [
      event(),
      event({ what: 'start' }),
      event({ counted: false, why: 'x' }),
      event({ watchId: 'y' }),
    ];
    expect(tallyOf(events, 'blow')).toEqual({ counted: 1, refused: 1 });
  });
});

describe('events over a plot', () => {
  const overlay = (events: SeenEvent[], watches = [watch()]) =>
    eventOverlay(watches, events, (t) => t - 20, -15, 0);

  it('are circles where they count, crosses where not, and lines at the levels', () => {
    const { series } = overlay([
      event(),
      event({ timeS: 12, counted: false, why: 'late' }),
      event({ timeS: 1 }),
    ]);
    expect(series.map((s) => [s.label, s.style, Array.from(s.x)])).toEqual([
      ['Blow', 'rings', [-10]],
      ['ignored', 'cross', [-8]],
      ['level', 'dashed', [-15, 0]],
    ]);
  });

  it('of a raw column or a button are marks with a name', () => {
    const start = watch({ id: 'go', name: 'Start', kind: 'signal', column: 'bell', params: {} });
    const { series, marks } = overlay([event({ watchId: 'go', at: 0.5 })], [start]);
    expect(series.filter((s) => s.style === 'rings')).toEqual([]);
    expect(marks).toEqual([{ at: -10, text: 'Start' }]);
  });
});

describe('what counts', () => {
  const show = (props: Partial<Parameters<typeof WatchFields>[0]> = {}) => {
    const onChange = vi.fn();
    render(
      <WatchFields
        watch={watch()}
        others={[]}
        unit="N"
        isDirection={false}
        columns={['load', 'bell']}
        tally={{ counted: 3, refused: 1 }}
        where="in this run"
        startsOpen={false}
        why={null}
        onChange={onChange}
        onRemove={() => undefined}
        onPropose={() => undefined}
        {...props}
      />,
    );
    return onChange;
  };

  it('is told in a line, with how many were found, and opens to be changed', async () => {
    const onChange = show();
    expect(screen.getByRole('button', { name: /^Blow pulse/ })).toHaveTextContent('Level: 150 N');
    expect(screen.getByRole('status')).toHaveTextContent('3 found in this run, 1 ignored');
    await userEvent.click(screen.getByRole('button', { name: /^Blow pulse/ }));
    const level = screen.getByLabelText('Level');
    await userEvent.clear(level);
    await userEvent.type(level, '200');
    expect(onChange).toHaveBeenLastCalledWith(
      expect.objectContaining({ params: expect.objectContaining({ level: 200 }) }),
    );
  });

  it('takes the defaults of another kind, and a raw column where that looks at one', async () => {
    const onChange = show({ startsOpen: true });
    await userEvent.selectOptions(screen.getByLabelText('Event type'), 'signal');
    expect(onChange).toHaveBeenLastCalledWith(
      expect.objectContaining({ kind: 'signal', column: 'load', params: detectorKind('signal')!.defaults }),
    );
  });

  it('offers a direction sectors, and a reading none', () => {
    show({ startsOpen: true, isDirection: true });
    const kinds = within(screen.getByLabelText('Event type')).getAllByRole('option');
    expect(kinds.map((k) => k.textContent)).toContain('Direction in a sector');
    expect(kinds.map((k) => k.textContent)).not.toContain('Peak');
  });
});

describe('what can be shown', () => {
  const spec: FigureSpec = {
    id: 'last',
    name: 'Last impact',
    kind: 'event-size',
    watches: { of: 'blow' },
    others: [],
    params: figureKind('event-size')!.defaults,
    askId: null,
  };
  const show = (shows: string | null, figures: NowFigure[]) => {
    const [onShow, onOpen] = [vi.fn(), vi.fn()];
    render(
      <FigureTiles
        specs={[spec]}
        figures={figures}
        reading={{ value: '5.0 N', worth: '±0.31' }}
        shows={shows}
        openId={null}
        zeroS={20}
        isLive
        onShow={onShow}
        onOpen={onOpen}
      />,
    );
    return { onShow, onOpen };
  };

  it('marks what is on the needle, says how long ago it was, and puts another one there', async () => {
    const { onShow, onOpen } = show('last', [now()]);
    const tile = screen.getByRole('button', { name: /^Last impact/ });
    expect(tile).toHaveAttribute('aria-pressed', 'true');
    expect(tile).toHaveTextContent('1235 N ±30on the needle10.0 s ago. The last of 3.');
    const reading = screen.getByRole('button', { name: /^Reading/ });
    expect(reading).toHaveTextContent('5.0 N ±0.31show instead');
    await userEvent.click(reading);
    expect(onShow).toHaveBeenCalledWith(null);
    await userEvent.click(screen.getByRole('button', { name: 'Edit Last impact' }));
    expect(onOpen).toHaveBeenCalledWith('last');
  });

  it('says why there is none', () => {
    show(null, [now({ value: null, uncertainty: null, reason: 'Waiting for the first event.' })]);
    expect(screen.getByRole('button', { name: /^Last impact/ })).toHaveTextContent(
      'Waiting for the first event.',
    );
  });
});

describe('the newest events', () => {
  it('say when they were, how large, and why one does not count', () => {
    const events = [event(), event({ timeS: 15, endS: 15, counted: false, why: 'Shorter than 1 s.' })];
    render(<NewestEvents watches={[watch()]} events={events} unit="N" zeroS={20} isLive />);
    const rows = screen.getAllByRole('row').map((r) => r.textContent);
    expect(rows).toEqual([
      '5.0 s agoBlow1200 Nignored: Shorter than 1 s.',
      '10.0 s agoBlow1200 N0.0120 s longvalid',
    ]);
  });
});

describe('a curve of angles', () => {
  it('is broken where it passes from one end of the circle to the other', () => {
    const { times, values } = roundTheCircle({
      times: Float64Array.of(0, 1, 2, 3),
      values: Float64Array.of(350, 359, 1, 10),
    });
    expect(Array.from(values)).toEqual([350, 359, Number.NaN, 1, 10]);
    expect(Array.from(times)).toEqual([0, 1, 2, 2, 3]);
  });
});
