import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { useAsked } from '../src/app/useAsked.ts';
import { WorkingOut } from '../src/pages/runs/WorkingOut.tsx';

interface Call {
  readonly question: { readonly of: string };
  readonly signal: AbortSignal;
  told(share: number): void;
  answer(text: string): void;
}

/** A page that waits for an answer, and what it has asked for. */
function page() {
  const calls: Call[] = [];
  const ask = (question: { of: string }, signal: AbortSignal, told: (share: number) => void) =>
    new Promise<string>((answer) => calls.push({ question, signal, told, answer }));
  function Page({ of }: { of: string }) {
    const { answer, share, givenUp, cancel, again } = useAsked({ of }, ask);
    return answer !== null && share === null ? (
      <p>{answer}</p>
    ) : (
      <WorkingOut
        samples={12_000_000}
        share={givenUp ? null : (share ?? 0)}
        onCancel={cancel}
        onGoOn={again}
      />
    );
  }
  const { rerender } = render(<Page of="a run" />);
  return { calls, show: (of: string) => rerender(<Page of={of} />) };
}

describe('what is worked out for the first time', () => {
  it('says how far it is, and can be given up and gone on with', async () => {
    const { calls } = page();
    expect(screen.getByRole('status')).toHaveTextContent('Calculating the readings of 12,000,000 samples…');
    calls[0]!.told(0.4);
    await waitFor(() => expect(screen.getByRole('progressbar')).toHaveValue(0.4));
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(calls[0]!.signal.aborted).toBe(true);
    expect(screen.getByRole('status')).toHaveTextContent(/Stopped before .* Results so far are kept\./);
    expect(screen.queryByRole('progressbar')).toBeNull();
    // What still comes of it changes nothing.
    calls[0]!.told(0.5);
    calls[0]!.answer('too late');
    await userEvent.click(screen.getByRole('button', { name: 'Continue' }));
    expect(calls).toHaveLength(2);
    expect(calls[1]!.question).toEqual({ of: 'a run' });
    calls[1]!.answer('all of it');
    expect(await screen.findByText('all of it')).toBeVisible();
  });

  it('is asked for at once where something else is looked at after it was given up', async () => {
    const { calls, show } = page();
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    show('another run');
    expect(await screen.findByRole('button', { name: 'Cancel' })).toBeVisible();
    calls[1]!.answer('another');
    expect(await screen.findByText('another')).toBeVisible();
  });
});
