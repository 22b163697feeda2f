import { fireEvent, render, screen } from '@testing-library/react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { expect, it } from 'vitest';
import { useAddressChoice } from '../src/app/useAddressChoice.ts';

function Slots() {
  const [slot, choose] = useAddressChoice('slot');
  return (
    <>
      <output>{slot ?? 'none'}</output>
      {['board', 'blow'].map((id) => (
        <button key={id} onClick={() => choose(id)}>
          {id}
        </button>
      ))}
    </>
  );
}

function open(address: string, answers: () => Promise<null>) {
  const routes = [{ path: '/', Component: Slots, loader: answers, HydrateFallback: () => null }];
  const router = createMemoryRouter(routes, { initialEntries: [address] });
  render(<RouterProvider router={router} />);
  return router;
}

it('has what was clicked from the click on, also while the router has not moved', async () => {
  let asked = 0;
  open('/?slot=board', () => (asked++ === 0 ? Promise.resolve(null) : new Promise(() => {})));
  await screen.findByText('board', { selector: 'output' });
  fireEvent.click(screen.getByRole('button', { name: 'blow' }));
  expect(screen.getByRole('status')).toHaveTextContent('blow');
});

it('follows the address: one that names nothing has no choice left over from a click', async () => {
  const router = open('/', () => Promise.resolve(null));
  await screen.findByText('none');
  fireEvent.click(screen.getByRole('button', { name: 'blow' }));
  await expect.poll(() => router.state.location.search).toBe('?slot=blow');
  await router.navigate('/');
  expect(await screen.findByText('none')).toBeInTheDocument();
});
