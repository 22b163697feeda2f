import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { Glyph } from '../src/parts/Glyph.tsx';
import { niceRange } from '../src/parts/niceRange.ts';
import { NumberField, parseTyped } from '../src/parts/NumberField.tsx';
import { PlotTable } from '../src/parts/PlotTable.tsx';
import { ProblemNote } from '../src/parts/ProblemNote.tsx';
import { ToleranceScale } from '../src/parts/ToleranceScale.tsx';
import { VerdictBadge } from '../src/parts/VerdictBadge.tsx';

describe('parseTyped', () => {
  it.each([
    ['3300', 3300],
    [' 2,5 ', 2.5],
    ['\u22121.5', -1.5],
    ['.5', 0.5],
    ['1e-3', 1e-3],
    ['', Number.NaN],
    ['12 apples', Number.NaN],
    ['1,2,3', Number.NaN],
  ])('%j', (text, value) => {
    expect(parseTyped(text)).toEqual(value);
  });
});

describe('NumberField', () => {
  it('leaves the number its room where the unit has a long name', () => {
    render(<NumberField label="It reads" unit="hu (untraceable)" value={7} onChange={() => {}} />);
    const field = screen.getByLabelText('It reads hu (untraceable)');
    expect(field).toHaveValue('7');
    expect(field.parentElement).not.toHaveTextContent('hu');
  });

  const field = () => screen.getByRole('textbox', { name: 'Series resistor' });

  it('passes on each good number, keeps what was typed, and says what is wrong with the rest', async () => {
    const changed = vi.fn();
    const check = (v: number) => (v > 0 ? null : 'It must be above 0 Ω.');
    function Page() {
      const [value, setValue] = useState(3300);
      const take = (v: number) => {
        changed(v);
        setValue(v);
      };
      return <NumberField label="Series resistor" unit="Ω" value={value} onChange={take} check={check} />;
    }
    render(<Page />);
    await userEvent.clear(field());
    expect(screen.getByText(/Enter a number/)).toBeVisible();
    expect(changed).not.toHaveBeenCalled();
    await userEvent.type(field(), '2,7');
    expect(changed.mock.calls).toEqual([[2], [2.7]]);
    expect(field()).toHaveValue('2,7');
    await userEvent.clear(field());
    await userEvent.type(field(), '-4');
    expect(field()).toBeInvalid();
    expect(screen.getByText('It must be above 0 Ω.')).toBeVisible();
    expect(changed).toHaveBeenCalledTimes(2);
  });

  it('follows a value that changes elsewhere, but not its own echo', () => {
    const { rerender } = render(<NumberField label="Series resistor" value={1} onChange={() => {}} />);
    rerender(<NumberField label="Series resistor" value={22} onChange={() => {}} />);
    expect(field()).toHaveValue('22');
    rerender(<NumberField label="Series resistor" value={null} onChange={() => {}} />);
    expect(field()).toHaveValue('');
  });
});

describe('ToleranceScale', () => {
  it('tells in words what it draws', () => {
    render(<ToleranceScale error={-0.31} uncertainty={0.42} tolerance={1} symbol="°C" />);
    expect(screen.getByRole('img')).toHaveAccessibleName('Error \u22120.31 ±0.42 °C; tolerance ±1 °C.');
  });

  it('keeps the needle on the scale however large the error', () => {
    const { container } = render(<ToleranceScale error={40} uncertainty={2} tolerance={1} symbol="°C" />);
    const needle = Number(container.querySelector('line.stroke-accent')!.getAttribute('x1'));
    expect(needle).toBeGreaterThan(150);
    expect(needle).toBeLessThan(300);
  });
});

describe('states', () => {
  it('are told by words and shapes, not by colour alone', () => {
    render(
      <>
        <VerdictBadge state="not shown" />
        <Glyph state="part" />
        <Glyph state="trouble" />
      </>,
    );
    expect(screen.getByText('? Not proven')).toBeVisible();
    expect(screen.getByRole('img', { name: 'in progress' })).toBeInTheDocument();
    expect(screen.getByRole('img', { name: 'needs attention' }).querySelectorAll('path')).toHaveLength(1);
  });
});

describe('ProblemNote', () => {
  it('says what is wrong and the way out, or nothing', () => {
    const { container, rerender } = render(<ProblemNote problem={null} />);
    expect(container).toBeEmptyDOMElement();
    rerender(
      <ProblemNote
        problem={{
          type: '',
          title: 'Disk full',
          status: 507,
          code: 'disk-full',
          detail: 'The disk has no room.',
          wayOut: 'Free some space.',
        }}
      />,
    );
    expect(screen.getByRole('alert')).toHaveTextContent('The disk has no room.Free some space.');
  });
});

describe('PlotTable', () => {
  it('thins long curves and says so, and shows gaps as dashes', () => {
    const x = Array.from({ length: 600 }, (_, i) => i);
    render(
      <PlotTable
        x={{ label: 'Speed', unit: 's' }}
        y={{ label: 'Temperature', unit: '°C' }}
        series={[
          {
            label: 'Probe 1',
            x,
            y: x.map((v) => (v === 10 ? Number.NaN : v / 3)),
            ink: 'trace',
            style: 'line',
          },
        ]}
      />,
    );
    expect(screen.getByText(/1 of every 10 points \(600 in total\)/)).toBeVisible();
    expect(screen.getAllByRole('row')).toHaveLength(61);
    expect(screen.getByText('–')).toBeVisible();
  });
});

describe('niceRange', () => {
  it.each([
    [0, 1, 0, 1],
    [-1.15, 1.15, -1.2, 1.2],
    [17, 98, 10, 100],
    [5, 5, 5, 5],
  ])('%d to %d becomes %d to %d', (low, high, min, max) => {
    const range = niceRange(low, high);
    expect(range.min).toBeCloseTo(min, 9);
    expect(range.max).toBeCloseTo(max, 9);
  });
});
