import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import { FITS, fitCalibration } from '@lucky-needle/core/calibrate';
import { compileLine, invertLine, readingAtRest } from '@lucky-needle/core/line';
import type { Calibration, OwnReference, ReferenceInput } from '@lucky-needle/core/model';
import { TEMPLATES, thermistorLine } from '@lucky-needle/core/plan';
import { startReference } from '@lucky-needle/core/references';
import { shelfApi } from '../src/api/shelfApi.ts';
import { createStore } from '../src/app/store.ts';
import { FitCard } from '../src/pages/trueup/FitCard.tsx';
import { ReferenceFields } from '../src/pages/trueup/ReferenceFields.tsx';
import { Versions } from '../src/pages/trueup/Versions.tsx';
import { SlipCard } from '../src/parts/SlipCard.tsx';

const line = thermistorLine('p1');
const context = { sampleRateHz: 10 };

/** A version whose points came from a probe with this series resistor. */
function version(number: number, seriesOhm: number, state: Calibration['state']): Calibration {
  const truth = compileLine(
    {
      ...line,
      stages: line.stages.map((s) => (s.id === 'divider' ? { ...s, params: { ...s.params, seriesOhm } } : s)),
    },
    context,
  );
  const points = [0, 20, 50, 95].map((t) => ({
    id: String(t),
    raw: invertLine(truth, t)[0]!,
    uRaw: 0.1,
    reference: t,
    uReference: 0.05,
  }));
  const result = fitCalibration(
    FITS.find((f) => f.id === 'series-resistor')!,
    line,
    context,
    points,
  );
  if (typeof result === 'string') throw new Error(result);
  return {
    id: `c${number}`,
    channelId: 'p1',
    number,
    state,
    result,
    pointIds: [],
    note: '',
    createdAt: `2026-0${number}-15T09:00:00.000Z`,
    usedAt: null,
  };
}

describe('Calibration versions', () => {
  const show = (...calibrations: Calibration[]) =>
    render(
      <Provider store={createStore()}>
        <Versions
          calibrations={calibrations}
          line={line}
          sampleRateHz={10}
          unit="degC"
          name="Kiln, Probe 1"
        />
      </Provider>,
    );

  it('tells a drift that is shown from one that is not', () => {
    show(version(1, 3300, 'replaced'), version(2, 3301, 'replaced'), version(3, 3500, 'in use'));
    const [third, second, first] = screen.getAllByRole('listitem');
    expect(third).toHaveTextContent(/Drift since the previous version: [+−][\d.]+ ±[\d.]+ °C\./);
    expect(second).toHaveTextContent(/No proven drift since the previous version/);
    expect(first).not.toHaveTextContent(/before/);
    expect(third).toHaveTextContent('✓ active');
    expect(within(first!).getByRole('button', { name: 'Use again' })).toBeEnabled();
  });

  it('says when the one in use is due again: a year after it was made, or as long as was said', () => {
    show(version(3, 3300, 'in use'));
    expect(screen.getByText(/15 Mar 2027/)).toBeVisible();
    cleanup();
    show({ ...version(3, 3300, 'in use'), goodForMonths: 6 });
    expect(screen.getByText(/overdue since 15 Sep 2026/)).toBeVisible();
    expect(screen.getByLabelText('Check again after')).toHaveValue('6');
  });

  it('is not there before the first one', () => {
    const { container } = show();
    expect(container).toBeEmptyDOMElement();
  });
});

describe('FitCard', () => {
  it('adds what a fit can find where none corrects the line', async () => {
    const add = vi.fn();
    render(
      <FitCard
        outcomes={[]}
        selected=""
        recommended={null}
        reach={null}
        symbolUnit="absorbance"
        onAddCorrection={add}
        onSelect={() => {}}
      />,
    );
    expect(screen.getByText(/No fit can correct this line yet/)).toBeVisible();
    await userEvent.click(screen.getByRole('button', { name: 'Add gain and offset' }));
    expect(add).toHaveBeenCalledOnce();
  });
});

describe('ReferenceFields', () => {
  const gadget = {
    ...TEMPLATES[0]!.make(),
    id: 'g',
    template: 't',
    name: 'G',
    version: 1,
    createdAt: '2026-01-01T00:00:00Z',
    updatedAt: '2026-01-01T00:00:00Z',
  };
  const own: OwnReference = {
    id: 'r1',
    version: 1,
    title: 'Spring from the smithy',
    value: 20,
    uncertainty: 0.1,
    unit: 'N',
    checkedOn: '2020-02-03',
    goodForMonths: 12,
    note: '',
  };
  const faults = vi.fn<(field: string, isWrong: boolean) => void>();
  const show = async (unit: 'degC' | 'N' | 'mgL', value: ReferenceInput) => {
    const changed = vi.fn<(v: ReferenceInput) => void>();
    const store = createStore();
    await store.dispatch(shelfApi.util.upsertQueryData('ownReferences', undefined, [own]));
    render(
      <Provider store={store}>
        <MemoryRouter>
          <ReferenceFields
            value={value}
            onChange={changed}
            onFault={faults}
            unit={unit}
            gadget={gadget}
            instruments={[]}
            columns={[]}
          />
        </MemoryRouter>
      </Provider>,
    );
    return changed;
  };
  const options = () =>
    within(screen.getByLabelText('Reference'))
      .getAllByRole('option')
      .map((o) => o.textContent);

  it('tells while something is typed that is no value, so that nothing is kept', async () => {
    const changed = await show('degC', { kind: 'instrument', reading: 20, uncertainty: 0.5 });
    const field = screen.getByLabelText('Reading');
    await userEvent.clear(field);
    await userEvent.type(field, '1,7x');
    expect(faults.mock.lastCall).toEqual(['Reading', true]);
    await userEvent.type(field, '{Backspace}');
    expect(faults.mock.lastCall).toEqual(['Reading', false]);
    expect(changed.mock.lastCall![0]).toMatchObject({ reading: 1.7 });
  });

  it('offers only what suits the reading, and the maker’s own by name', async () => {
    const changed = await show('N', startReference('weight-force', 'N', gadget.place));
    expect(options()).toEqual([
      'No load',
      'Weight of a known mass',
      'Comparison scale',
      'Spring from the smithy (overdue)',
    ]);
    expect(screen.getByLabelText('Latitude')).toHaveValue('50');
    await userEvent.selectOptions(screen.getByLabelText('Reference'), 'Spring from the smithy (overdue)');
    expect(changed.mock.lastCall![0]).toMatchObject({
      kind: 'own',
      referenceId: 'r1',
      value: 20,
      uncertainty: 0.1,
    });
  });

  it('passes on a changed figure, also one inside a step, and names its bounds', async () => {
    const changed = await show('mgL', startReference('dilution', 'mgL', gadget.place));
    await userEvent.type(screen.getByLabelText('Made up to'), '0');
    expect(changed.mock.lastCall![0]).toMatchObject({
      kind: 'dilution',
      steps: [{ taken: 1, madeUpTo: 100 }],
    });
    await userEvent.clear(screen.getByLabelText('Volume taken'));
    await userEvent.type(screen.getByLabelText('Volume taken'), '-1');
    expect(screen.getByText('Enter a value above 0.')).toBeVisible();
  });

  it('starts another kind with figures that are usual for it', async () => {
    const changed = await show('degC', { kind: 'ice-slurry' });
    await userEvent.selectOptions(
      screen.getByLabelText('Reference'),
      'Boiling water, pressure from elevation',
    );
    expect(changed).toHaveBeenCalledWith({
      kind: 'boiling-elevation',
      elevationM: gadget.place.elevationM,
    });
  });
});

describe('SlipCard', () => {
  it('takes a slip of the line out where there is an edit for it', async () => {
    const applied = vi.fn();
    const turned = compileLine(
      {
        ...line,
        stages: line.stages.map((s) =>
          s.id === 'divider' ? { ...s, params: { ...s.params, side: 'bottom' } } : s,
        ),
      },
      context,
    );
    const raw = invertLine(compileLine(line, context), 20)[0]!;
    const shown = readingAtRest(turned, raw);
    render(
      <SlipCard
        observations={[{ shown, expected: 20, raw }]}
        unit="degC"
        line={turned.spec}
        sampleRateHz={10}
        onClose={() => {}}
        onApply={applied}
      />,
    );
    const [first] = screen.getAllByRole('listitem');
    expect(first).toHaveTextContent(/divider/i);
    await userEvent.click(within(first!).getByRole('button', { name: /^Apply correction: The divider/ }));
    expect(applied.mock.lastCall![0]).toMatchObject({ stageId: 'divider', params: { side: 'top' } });
  });
});
