import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import { FITS, fitCalibration, recommendFit } from '@lucky-needle/core/calibrate';
import {
  characterPage,
  displayGrid,
  pixelPage,
  spokenPage,
  startingPages,
  type PageContent,
} from '@lucky-needle/core/face';
import { compileLine, invertLine, LineError, REASON, valuesAtRest } from '@lucky-needle/core/line';
import { briefOfAsk, TEMPLATES, thermistorLine } from '@lucky-needle/core/plan';
import { budgetAnswer, lineBudget, proveChannel, type ReadingBudget } from '@lucky-needle/core/prove';
import type { LiveLine } from '../src/live/useLiveLine.ts';
import { CharacterDisplay } from '../src/pages/face/CharacterDisplay.tsx';
import { PixelDisplay } from '../src/pages/face/PixelDisplay.tsx';
import { BudgetTable } from '../src/pages/prove/BudgetTable.tsx';
import { FitCard } from '../src/pages/trueup/FitCard.tsx';
import { NeedleStrip } from '../src/parts/NeedleStrip.tsx';

const line = compileLine(thermistorLine('p1'), { sampleRateHz: 10 });
const whole = TEMPLATES[0]!.make().brief!;
const brief = briefOfAsk(whole, whole.asks[0]!);

describe('NeedleStrip', () => {
  const live = (change: Partial<LiveLine>): LiveLine => ({
    line,
    error: null,
    isDraft: false,
    times: new Float64Array(1),
    stages: [],
    newest: valuesAtRest(line, 440),
    newestRaw: [440],
    newestReason: REASON.ok,
    ...change,
  });
  const show = (l: LiveLine, worth: number | null = 0.1) =>
    render(
      <MemoryRouter>
        <NeedleStrip
          live={l}
          calibration={null}
          noiseRaw={0.6}
          worth={worth}
          tolerance={1}
          states={undefined}
          figure={null}
          found={null}
          stageHref={(id) => `/line#${id}`}
        />
      </MemoryRouter>,
    );

  it('walks the reading through every stage with units, each opening its stage', () => {
    show(live({}));
    const strip = screen.getByRole('navigation', { name: 'Signal line, live' });
    expect(
      within(strip)
        .getAllByRole('link')
        .map((a) => a.getAttribute('href')),
    ).toEqual(['adc', 'adc', 'divider', 'thermistor', 'correction', 'smoothing'].map((id) => `/line#${id}`));
    expect(strip).toHaveTextContent('of 1023 counts');
    expect(strip).toHaveTextContent(/2\.49\d? kΩ/);
    expect(screen.getByTestId('needle-shown')).toHaveTextContent(
      /Reading(59|60)\.\d °C ±0\.\d+tolerance ±1\.0/,
    );
  });

  it('shows one digit more than the needle of stages that nobody knows the worth of, and no more', () => {
    show(live({}), null);
    expect(screen.getByTestId('needle-shown')).toHaveTextContent(/Reading(59|60)\.\d °C ± unknown/);
    expect(screen.getByRole('link', { name: /^Exponential smoothing/ })).toHaveTextContent(
      /^Exponential smoothing(59|60)\.\d\d °C$/,
    );
  });

  it('says why there is no number, never a made-up one', () => {
    show(live({ newest: valuesAtRest(line, 1023), newestRaw: [1023], newestReason: REASON.saturatedHigh }));
    expect(screen.getByTestId('needle-shown')).toHaveTextContent('Above ADC range');
    expect(screen.getByTestId('needle-shown')).not.toHaveTextContent('°C');
  });

  it('tells no readings and a line that does not run apart', () => {
    const { unmount } = show(live({ newest: [], newestRaw: [] }));
    expect(screen.getByTestId('needle-shown')).toHaveTextContent('No reading');
    unmount();
    show(live({ line: null, error: new LineError(null, 'Divider takes ratio.') }));
    expect(screen.getByRole('alert')).toHaveTextContent('The signal line has an error. Divider takes ratio.');
  });
});

describe('FitCard', () => {
  const truth = compileLine(
    {
      ...line.spec,
      stages: line.spec.stages.map((s) =>
        s.id === 'divider' ? { ...s, params: { ...s.params, seriesOhm: 3432 } } : s,
      ),
    },
    line.context,
  );
  const points = [0, 20, 50].map((t) => ({
    id: String(t),
    raw: invertLine(truth, t)[0]!,
    uRaw: 0.1,
    reference: t,
    uReference: 0.05,
  }));
  const outcomes = (n: number) =>
    FITS.map((k) => ({ id: k.id, result: fitCalibration(k, line.spec, line.context, points.slice(0, n)) }));

  it('advises, shows constants with uncertainty and what they were, and lets another be chosen', async () => {
    const chosen = vi.fn();
    const all = outcomes(3);
    const results = all.flatMap((o) => (typeof o.result === 'string' ? [] : [o.result]));
    render(
      <FitCard
        outcomes={all}
        selected="series-resistor"
        recommended={recommendFit(results, 1)}
        reach={null}
        symbolUnit="degC"
        onAddCorrection={null}
        onSelect={chosen}
      />,
    );
    expect(screen.getByText('★ recommended').parentElement).toHaveTextContent('Fit series resistor');
    expect(screen.getByTestId('fitted-seriesOhm')).toHaveTextContent(/3432(\.0)? ±.* Ωwas 3300/);
    await userEvent.click(screen.getByRole('radio', { name: /Gain and offset/ }));
    expect(chosen).toHaveBeenCalledWith('gain-offset');
  });

  it('says how many points a fit still needs', () => {
    render(
      <FitCard
        outcomes={outcomes(1)}
        selected="steinhart-hart"
        recommended={null}
        reach={null}
        symbolUnit="degC"
        onAddCorrection={null}
        onSelect={() => {}}
      />,
    );
    expect(screen.getByText('Needs 3 different points; capture 2 more.')).toBeVisible();
    expect(screen.getByText(/More points are needed/)).toBeVisible();
  });
});

describe('BudgetTable', () => {
  it('lists every source with unit and share, and the whole at 95 %', () => {
    const sensor = {
      title: 'Bead',
      unit: 'degC',
      signal: 'thermistor',
      accuracyFixed: 0,
      accuracyShare: 0,
      afterTrueUp: 0.1,
      responseS: 2,
      noise: 0,
    } as const;
    const given = { line, brief, calibration: null, achievedHz: 10, sensor, atMs: 0 };
    const quiet = proveChannel({ ...given, points: [] }).budget as ReadingBudget;
    const { unmount } = render(<BudgetTable budget={budgetAnswer(quiet, 'degC')} tolerance={1} />);
    expect(screen.getAllByRole('row')).toHaveLength(quiet.lines.length + 2);
    expect(screen.getByText('not measured yet').closest('tr')).toHaveTextContent(/unknown–/);
    // What is known is the least that it can be, and has no shares.
    const least = screen.getByText('Known sources combined, 95 %').closest('tr')!;
    expect(least).toHaveTextContent(/k = 1\.96±1\.\d °Ctolerance ±1\.0/);
    expect(screen.queryByText(/ %$/, { selector: 'td span' })).toBeNull();
    unmount();
    const whole = lineBudget({
      line,
      brief,
      calibration: null,
      points: [],
      noiseRaw: 0.5,
      hysteresis: 0,
      seen: [],
      sensor,
      achievedHz: 10,
      now: null,
    });
    render(<BudgetTable budget={budgetAnswer(whole as ReadingBudget, 'degC')} tolerance={1} />);
    expect(screen.getByText('Combined, 95 %')).toBeVisible();
    expect(screen.getAllByText(/^\d+ %$/)).toHaveLength(quiet.lines.length);
  });
});

const CHARACTERS = displayGrid({ widthPx: 0, heightPx: 0, columns: 20, rows: 4 });
const PIXELS = displayGrid({ widthPx: 128, heightPx: 64, columns: 0, rows: 0 });

function faceOn(grid: typeof PIXELS): PageContent {
  const alarm = { level: 'limit', name: 'Too hot' } as const;
  const reading = {
    name: 'Probe 1',
    text: '61.0',
    unit: '°C',
    worth: '±0.7',
    state: '',
    detail: '',
    share: 0.55,
    ends: ['0', '110'] as const,
    courseDeg: null,
    history: [],
  };
  const [page] = startingPages(grid, [{ id: 'p1', isDirection: false, hasRange: true }], 'p1', 'auto');
  return {
    alarm,
    widgets: page!.widgets.map((spec) => ({
      spec,
      seen: { reading, extremes: null, race: null, spectrum: null, alarm, title: reading.name },
    })),
  };
}

describe('the face', () => {
  it('is drawn cell by cell and can be heard', () => {
    const content = faceOn(CHARACTERS);
    render(
      <CharacterDisplay
        cells={characterPage(CHARACTERS, content).cells}
        outputs={null}
        spoken={spokenPage(content)}
      />,
    );
    expect(screen.getByRole('figure')).toHaveTextContent(/20 × 4 characters/);
    expect(screen.getByTestId('display').firstElementChild!.children).toHaveLength(80);
    expect(screen.getByRole('figure')).toHaveAccessibleName('Display: Probe 1 61.0 °C; LIMIT Too hot');
  });

  it('is drawn pixel by pixel and can be heard', () => {
    render(
      <PixelDisplay
        face={pixelPage(PIXELS, faceOn(PIXELS))}
        shows="self-lit"
        title="OLED display"
        spoken={spokenPage(faceOn(PIXELS))}
        outputs={null}
      />,
    );
    expect(screen.getByRole('figure')).toHaveTextContent(/128 × 64 pixels/);
    expect(screen.getByRole('figure')).toHaveAccessibleName(/Probe 1 61\.0 °C/);
  });
});
