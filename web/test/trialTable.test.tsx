import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Trial, TrialRule } from '@lucky-needle/core/model';
import { TrialTable } from '../src/pages/runs/trials/TrialTable.tsx';

const rule: TrialRule = {
  channelId: 'c',
  how: 'run',
  watchId: null,
  endWatchId: null,
  figureId: 'peak',
  more: true,
};
const trial = (number: number, label = ''): Trial => ({
  id: `r@${number}`,
  recordingId: 'r',
  runName: 'Forge',
  number,
  fromS: number,
  toS: number + 0.5,
  at: `2026-11-28T10:00:0${number}Z`,
  isOpen: false,
  saidAtS: null,
  figures: [
    {
      id: 'peak',
      name: 'Peak',
      value: 1000 + number,
      unit: 'N',
      uncertainty: null,
      decimals: 0,
      reason: null,
      how: '',
      timeS: null,
      sinceS: null,
      tolerance: null,
    },
  ],
  label,
  note: '',
  excluded: null,
});

describe('the table of trials', () => {
  const acts = { chosen: [], onChoose: vi.fn(), onLabel: vi.fn(), onNote: vi.fn(), onExclude: vi.fn() };
  const table = (trials: readonly Trial[]) => <TrialTable trials={trials} rule={rule} {...acts} />;

  it('keeps what is being typed while further trials arrive, and labels on Enter', async () => {
    const user = userEvent.setup();
    const { rerender } = render(table([trial(1), trial(2)]));
    await user.type(screen.getByLabelText('Label for trial 1 of Forge'), 'Oa');
    await user.click(screen.getAllByRole('button', { name: 'Exclude' })[0]!);
    await user.type(screen.getByLabelText('Reason for excluding trial 2'), 'glan');
    rerender(table([trial(1, 'Oa'), trial(2), trial(3, 'Iron')]));
    const why = screen.getByLabelText('Reason for excluding trial 2');
    expect(why).toHaveValue('glan');
    await user.type(why, 'ced{Enter}');
    expect(acts.onExclude).toHaveBeenCalledWith(expect.objectContaining({ id: 'r@2' }), 'glanced');
    // Left for another field, the label was kept.
    expect(acts.onLabel).toHaveBeenCalledWith(expect.objectContaining({ id: 'r@1' }), 'Oa');
  });

  it('puts the newest first, and by a figure when its head is pressed', async () => {
    const user = userEvent.setup();
    render(table([trial(1), trial(3), trial(2)]));
    const order = () => screen.getAllByTestId('trial').map((row) => row.textContent!.slice(0, 1));
    expect(order()).toEqual(['3', '2', '1']);
    await user.click(screen.getByRole('button', { name: /^Peak, N/ }));
    expect(screen.getByRole('columnheader', { name: /^Peak, N/ })).toHaveAttribute('aria-sort', 'descending');
    await user.click(screen.getByRole('button', { name: /^Peak, N/ }));
    expect(order()).toEqual(['1', '2', '3']);
  });

  it('puts rows together by what they say, with how many count and their mean', async () => {
    const of = (n: number, label: string) => ({ ...trial(n, label), excluded: null });
    const nothing = vi.fn();
    render(
      <TrialTable
        trials={[
          of(1, 'oak / Wren'),
          of(2, 'iron / Wren'),
          of(3, 'oak / Tor'),
          { ...of(4, 'oak / Tor'), excluded: 'slipped' },
        ]}
        rule={rule}
        chosen={[]}
        onChoose={nothing}
        onLabel={nothing}
        onNote={nothing}
        onExclude={nothing}
      />,
    );
    expect(screen.queryAllByTestId('group')).toHaveLength(0);
    await userEvent.click(screen.getByText('Columns and groups'));
    await userEvent.selectOptions(screen.getByLabelText('Group rows by'), 'part 1 of the label');
    const groups = screen.getAllByTestId('group').map((g) => g.textContent);
    expect(groups).toHaveLength(2);
    expect(groups[0]).toMatch(/^iron1 of 1 included, mean 1002.0 N$/);
    expect(groups[1]).toMatch(/^oak2 of 3 included, mean 1002 ±/);
    expect(screen.getAllByTestId('trial')).toHaveLength(4);
    await userEvent.selectOptions(screen.getByLabelText('Group rows by'), 'no grouping');
    expect(screen.queryAllByTestId('group')).toHaveLength(0);
  });
});
