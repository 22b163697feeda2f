import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { Gadget } from '@lucky-needle/core/model';
import {
  planOf,
  rankSensors,
  SHELF,
  TEMPLATES,
  WEIGHTS,
  type Candidate,
  type Weights,
} from '@lucky-needle/core/plan';
import { CandidateCard } from '../src/pages/pick/CandidateCard.tsx';
import { ComparePanel } from '../src/pages/pick/ComparePanel.tsx';
import { FailedRow } from '../src/pages/pick/FailedRow.tsx';
import { WeightsPanel } from '../src/pages/pick/WeightsPanel.tsx';
import { MarginScale } from '../src/parts/MarginScale.tsx';

function ranked(template: string, ask: string, board: string): Candidate[] {
  const made = TEMPLATES.find((t) => t.id === template)!.make();
  const gadget: Gadget = {
    id: 'g',
    template,
    name: 'G',
    version: 1,
    createdAt: '2026-11-24T09:00:00Z',
    updatedAt: '2026-11-24T09:00:00Z',
    ...made,
    picks: [{ slot: 'board', partId: board, converterId: null, reason: '' }],
  };
  return rankSensors(planOf(gadget, SHELF)!, ask);
}

let blow: Candidate[];
let kiln: Candidate[];
beforeAll(() => {
  blow = ranked('impact-peak', 'blow', 'fast-32-bit');
  kiln = ranked('several-temperatures', 'temperature', 'small-8-bit');
});

describe('CandidateCard', () => {
  const show = (ways: readonly Candidate[], pickedThrough?: string | null) => {
    const picked = vi.fn();
    render(
      <CandidateCard
        ways={ways}
        rank={1}
        pickedThrough={pickedThrough}
        saving={false}
        compared={false}
        onPick={picked}
        onCompare={() => {}}
      />,
    );
    return picked;
  };
  const waysOf = (id: string) => kiln.filter((c) => c.part.id === id);

  it('says each verdict in words and opens its arithmetic', async () => {
    const ways = waysOf('ntc-bead-10k').filter((c) => c.converter === null);
    const picked = show(ways);
    const card = screen.getByRole('article', { name: 'NTC bead probe, 10 kΩ' });
    expect(within(card).getAllByRole('listitem')).toHaveLength(ways[0]!.verdicts.length);
    await userEvent.click(within(card).getByText('Resolution'));
    expect(within(card).getByText(/One ADC count of .* is 0\.3\d* °C at 110 °C/)).toBeVisible();
    await userEvent.click(within(card).getByRole('button', { name: 'Pick' }));
    expect(picked).toHaveBeenCalledWith(ways[0]);
  });

  it('lets the same part be read through another converter, and picks it so', async () => {
    const ways = waysOf('ntc-bead-10k');
    const through = ways.find((c) => c.converter?.id === 'converter-16-4')!;
    const picked = show(ways);
    await userEvent.selectOptions(screen.getByLabelText('Converter'), 'converter-16-4');
    expect(screen.getByText('with converter').parentElement).toHaveTextContent(
      (through.part.price + through.converter!.price).toFixed(2),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Pick' }));
    expect(picked).toHaveBeenCalledWith(through);
  });

  it('gives what is picked no button', () => {
    const ways = waysOf('ntc-bead-10k');
    show(ways, ways[0]!.converter?.id ?? null);
    expect(screen.getByText('✓ Picked')).toBeVisible();
    expect(screen.queryByRole('button', { name: 'Pick' })).toBeNull();
  });
});

describe('FailedRow', () => {
  it('tells the reason and what would have to change, and lets the maker insist', async () => {
    const slow = blow.find((c) => c.converter?.id === 'bridge-slow-24')!;
    const picked = vi.fn();
    render(
      <FailedRow
        candidate={slow}
        picked={false}
        saving={false}
        compared={false}
        onPick={picked}
        onCompare={() => {}}
      />,
    );
    const row = screen.getByRole('article');
    expect(row).toHaveTextContent(/12 ms pulse may be missed altogether/);
    expect(row).toHaveTextContent(
      /To pass: Use a converter with at least \d+ readings per second instead of/,
    );
    await userEvent.click(within(row).getByRole('button', { name: 'Pick anyway' }));
    expect(picked).toHaveBeenCalledOnce();
  });
});

describe('ComparePanel', () => {
  it('shows only what differs, marks the better, and names what is the same', () => {
    const two = [blow.find((c) => !c.failed)!, blow.find((c) => c.converter?.id === 'bridge-slow-24')!];
    render(<ComparePanel candidates={two} onClose={() => {}} />);
    const rate = screen.getByRole('rowheader', { name: 'Reading rate' }).closest('tr')!;
    expect(within(rate).getAllByText('best')).toHaveLength(1);
    expect(within(rate).getAllByRole('cell')[0]).toHaveTextContent('best');
    expect(screen.getByText(/^Same for all: .*range/)).toBeVisible();
  });
  it('Choose a second part', () => {
    render(<ComparePanel candidates={[kiln[0]!]} onClose={() => {}} />);
    expect(screen.getByRole('status')).toHaveTextContent(/Choose a second part/);
  });
});

describe('WeightsPanel', () => {
  function Panel() {
    const [weights, setWeights] = useState<Weights>(WEIGHTS);
    return <WeightsPanel checks={[['price', 'Price']]} weights={weights} onChange={setWeights} />;
  }
  it('moves a weight, tells it, and goes back; the last one cannot go to nothing', async () => {
    render(<Panel />);
    await userEvent.click(screen.getByText('Score weights'));
    const slider = screen.getByRole('slider', { name: 'Weight of Price' });
    fireEvent.change(slider, { target: { value: '5' } });
    expect(screen.getByText('price ×5')).toBeVisible();
    fireEvent.change(slider, { target: { value: '0' } });
    expect(slider).toHaveValue('5');
    await userEvent.click(screen.getByRole('button', { name: 'Reset' }));
    expect(screen.getByText(`price ×${WEIGHTS.price}`)).toBeVisible();
  });
});

describe('MarginScale', () => {
  it.each([
    [0.2, '20 % to spare'],
    [-0.5, '50 % short'],
    [12, '×13 to spare'],
  ])('says a margin of %d as "%s"', (margin, words) => {
    render(<MarginScale margin={margin} />);
    expect(screen.getByRole('img', { name: words })).toBeVisible();
  });
  it('draws nothing where there is no figure', () => {
    const { container } = render(<MarginScale margin={Number.NaN} />);
    expect(container).toBeEmptyDOMElement();
  });
});
