import { useLayoutEffect } from 'react';
import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { useKey } from '../src/app/shell/keys.ts';

describe('useKey', () => {
  it('answers with what is drawn, also to a key that comes as soon as it is', () => {
    const heard = vi.fn();
    function Page({ shown }: { shown: string }) {
      useKey(' ', () => heard(shown));
      useLayoutEffect(() => {
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true }));
      }, [shown]);
      return <p>{shown}</p>;
    }
    const { rerender } = render(<Page shown="not steady" />);
    heard.mockClear();
    rerender(<Page shown="steady" />);
    expect(heard.mock.calls).toEqual([['steady']]);
  });

  it('leaves keys to fields and buttons, and a held one is pressed once', async () => {
    const heard = vi.fn();
    function Page() {
      useKey(' ', heard);
      return (
        <>
          <input aria-label="text" />
          <button type="button">press</button>
          <input aria-label="number" inputMode="decimal" />
        </>
      );
    }
    const { getByLabelText, getByRole } = render(<Page />);
    await userEvent.type(getByLabelText('text'), 'a b');
    getByRole('button').focus();
    await userEvent.keyboard(' ');
    expect(heard).not.toHaveBeenCalled();
    await userEvent.type(getByLabelText('number'), '5 ');
    expect(heard).toHaveBeenCalledTimes(1);
    document.body.focus();
    (document.activeElement as HTMLElement).blur();
    await userEvent.keyboard('{ >3/}');
    expect(heard).toHaveBeenCalledTimes(2);
  });
});
