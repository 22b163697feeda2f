import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { describe, expect, it } from 'vitest';
import { PART_KINDS, PART_SCHEMAS, SIGNALS } from '@lucky-needle/core/model';
import { blankPart, SHELF } from '@lucky-needle/core/plan';
import { store } from '../src/app/store.ts';
import { partFacts } from '../src/pages/shelf/partFacts.ts';
import { fieldGroups } from '../src/pages/shelf/partFields.ts';
import { PartForm } from '../src/pages/shelf/PartForm.tsx';

describe('the fields of a part', () => {
  it('are all there, once, each with a label', () => {
    for (const kind of PART_KINDS) {
      const signals = kind === 'sensor' ? SIGNALS : [undefined];
      const names = new Set<string>();
      for (const signal of signals) {
        const fields = fieldGroups(kind, signal).flatMap((g) => g.fields);
        expect(new Set(fields.map((f) => f.name)).size).toBe(fields.length);
        for (const f of fields) {
          names.add(f.name);
          expect(f.label).not.toBe(f.name);
        }
      }
      // Nothing of the schema is out of a form's reach.
      const wanted = Object.keys(PART_SCHEMAS[kind].properties).filter((n) => n !== 'kind');
      expect([...names].toSorted()).toEqual(wanted.toSorted());
    }
  });

  it('leave out what a signal has no use for', () => {
    const names = (signal: string) =>
      fieldGroups('sensor', signal).flatMap((g) => g.fields.map((f) => f.name));
    expect(names('thermistor')).toContain('betaK');
    expect(names('number')).not.toContain('betaK');
    expect(names('number')).toContain('step');
  });
});

describe('partFacts', () => {
  it('tells figures with units and without idle zeros', () => {
    for (const part of SHELF) {
      expect(partFacts(part)).not.toMatch(/NaN|undefined|\d\.0+(\D|$)/);
      if (part.kind !== 'passive') expect(partFacts(part).length).toBeGreaterThan(5);
    }
    const probe = SHELF.find((p) => p.id === 'ntc-bead-10k')!;
    expect(partFacts(probe)).toBe('−40 to 125 °C · ±0.1 °C uncalibrated · 1000 /s · 1 to 12 V, 0.4 mA');
  });
});

describe('PartForm', () => {
  const show = () =>
    render(
      <Provider store={store}>
        <PartForm start={{ ...blankPart('sensor'), id: 'mine' }} own={null} onDone={() => {}} />
      </Provider>,
    );

  it('names the rule, the value and the field that is wrong, and keeps what was typed', async () => {
    show();
    const form = screen.getByRole('form', { name: 'New part' });
    await userEvent.clear(within(form).getByLabelText(/^Measuring range, highest/));
    await userEvent.type(within(form).getByLabelText(/^Measuring range, highest/), 'hot');
    await userEvent.click(within(form).getByRole('button', { name: 'Save part' }));
    expect(within(form).getByRole('alert')).toHaveTextContent('high must be a number; received "hot".');
    expect(within(form).getByLabelText(/^Measuring range, highest/)).toHaveValue('hot');
    expect(within(form).getByLabelText(/^Measuring range, highest/)).toBeInvalid();
  });

  it('asks whether a current is in milliamperes or amperes', async () => {
    show();
    const form = screen.getByRole('form');
    await userEvent.selectOptions(within(form).getByLabelText('Output'), 'heated element');
    for (const [label, value] of [
      ['Reference resistance \\(R0\\), ohm', '26000'],
      ['Series or load resistor, ohm', '4700'],
      ['Level in clean air', '8'],
      ['Curve exponent', '-1.9'],
      ['Operating current, A', '150'],
      ['Peak current, A', '150'],
    ] as const) {
      const field = within(form).getByLabelText(new RegExp(`^${label}`));
      await userEvent.clear(field);
      await userEvent.type(field, value);
    }
    expect(within(form).queryByRole('status')).toBeNull();
    // The shelf's own rule bounds currents at 100 A; below that the kind's usual speaks.
    for (const label of ['Operating current, A', 'Peak current, A']) {
      await userEvent.clear(within(form).getByLabelText(label));
      await userEvent.type(within(form).getByLabelText(label), '90');
    }
    expect(within(form).getByRole('status')).toHaveTextContent(
      /90 A for this heated gas sensor\? Typical is 30 mA to 0.2 A/,
    );
  });
});
