import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { lineToJson, stagesThatFit, type Advice } from '@lucky-needle/core/line';
import type { Channel, LineSpec } from '@lucky-needle/core/model';
import { thermistorLine } from '@lucky-needle/core/plan';
import { AdvisorCard } from '../src/pages/line/AdvisorCard.tsx';
import { LineTools } from '../src/pages/line/LineTools.tsx';
import { StagePicker } from '../src/pages/line/StagePicker.tsx';

const line = thermistorLine('p1');

describe('StagePicker', () => {
  const show = () => {
    const added = vi.fn();
    render(<StagePicker kinds={stagesThatFit(['degC'])} units={['degC']} behind="smoothing" onAdd={added} />);
    return added;
  };

  it('offers only what fits, found by words of its name or of what it does', async () => {
    const added = show();
    await userEvent.click(screen.getByRole('button', { name: 'Add a stage after smoothing' }));
    expect(screen.queryByText('Voltage divider')).toBeNull();
    await userEvent.type(screen.getByRole('searchbox', { name: 'Search stages' }), 'spike');
    const found = screen.getAllByRole('listitem').map((li) => li.textContent);
    expect(found.length).toBeLessThan(4);
    expect(found[0]).toMatch(/^Spike removal \(Hampel\)/);
    await userEvent.keyboard('{Enter}');
    expect(added).toHaveBeenCalledWith('hampel');
    expect(screen.queryByRole('searchbox')).toBeNull();
  });

  it('says so when nothing is called that, and closes on Escape', async () => {
    show();
    await userEvent.click(screen.getByRole('button', { name: /Add a stage/ }));
    await userEvent.type(screen.getByRole('searchbox'), 'soup');
    expect(screen.getByText('No matching stage found.')).toBeVisible();
    await userEvent.keyboard('{Escape}');
    expect(screen.queryByRole('searchbox')).toBeNull();
  });
});

describe('LineTools', () => {
  const channel: Channel = {
    id: 'p1',
    askId: 'a',
    name: 'Probe 1',
    line,
    variants: [{ name: 'bare', line: { ...line, stages: line.stages.slice(0, 3) } }],
  };
  const show = () => {
    const onLine = vi.fn<(l: LineSpec) => void>();
    const onVariants = vi.fn();
    render(
      <LineTools
        channel={channel}
        line={line}
        sampleRateHz={10}
        saving={false}
        onLine={onLine}
        onVariants={onVariants}
      />,
    );
    return { onLine, onVariants };
  };

  it('keeps a variant under a name, tries one, and forgets one', async () => {
    const { onLine, onVariants } = show();
    await userEvent.click(screen.getByText('Variants and files'));
    await userEvent.click(screen.getByRole('button', { name: 'Try' }));
    expect(onLine.mock.calls[0]![0].stages).toHaveLength(3);
    await userEvent.type(screen.getByLabelText('Variant name'), 'slower');
    await userEvent.click(screen.getByRole('button', { name: 'Save as variant' }));
    expect(onVariants.mock.calls[0]![0].map((v: { name: string }) => v.name)).toEqual(['bare', 'slower']);
    await userEvent.click(screen.getByRole('button', { name: 'Delete variant bare' }));
    expect(onVariants.mock.calls[1]![0]).toEqual([]);
  });

  it('imports a line from a file, and names what is wrong with one', async () => {
    const { onLine } = show();
    await userEvent.click(screen.getByText('Variants and files'));
    const upload = (text: string) =>
      userEvent.upload(
        screen.getByLabelText('Import a line'),
        new File([text], 'line.json', { type: 'application/json' }),
      );
    await upload(lineToJson(thermistorLine('elsewhere')));
    // It takes the columns of this channel.
    expect(onLine.mock.calls[0]![0]).toEqual(line);
    await upload('{"form":"recipe"}');
    expect(await screen.findByRole('alert')).toHaveTextContent('must contain “signal line”');
    expect(onLine).toHaveBeenCalledOnce();
  });
});

describe('AdvisorCard', () => {
  const advice: Advice = {
    traits: { n: 6000, noise: 0.4, spikes: 3, hum: null, wander: 0 },
    findings: ['3 of 6000 readings are spikes.'],
    chains: [
      {
        title: 'Exponential smoothing',
        stages: [{ kind: 'hampel', params: { width: 9, limit: 4, floor: 0 }, reason: 'Three spikes.' }],
        noiseLeft: 0.0912,
        delayS: 0.4,
        price: 'Trails by nothing much.',
      },
    ],
  };
  it('shows what it found, and lets a chain be tried', async () => {
    const tried = vi.fn();
    render(<AdvisorCard unit="degC" advise={async () => advice} onTry={tried} />);
    await userEvent.click(screen.getByRole('button', { name: 'Analyse these readings' }));
    expect(await screen.findByText('3 of 6000 readings are spikes.')).toBeVisible();
    const chain = screen.getByRole('article', { name: 'Exponential smoothing' });
    expect(chain).toHaveTextContent('Spike removal (Hampel): Three spikes.');
    expect(chain).toHaveTextContent('Remaining noise 0.091 °C (SD), delay 0.4 s.');
    await userEvent.click(within(chain).getByRole('button', { name: 'Try this' }));
    expect(tried).toHaveBeenCalledWith(advice.chains[0]);
  });
  it('says when there are too few readings, or nothing to do', async () => {
    const { rerender } = render(<AdvisorCard unit="degC" advise={async () => null} onTry={() => {}} />);
    await userEvent.click(screen.getByRole('button', { name: 'Analyse these readings' }));
    expect(await screen.findByText(/256 readings in the brief’s quantity/)).toBeVisible();
    rerender(<AdvisorCard unit="degC" advise={async () => ({ ...advice, chains: [] })} onTry={() => {}} />);
    await userEvent.click(screen.getByRole('button', { name: 'Analyse these readings' }));
    expect(await screen.findByText(/No filter is needed/)).toBeVisible();
  });
});
