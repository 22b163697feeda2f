import { fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import { GLOSSARY } from '@lucky-needle/core/words';
import { HelpPage } from '../src/pages/help/HelpPage.tsx';
import { Explained } from '../src/parts/Explained.tsx';

const tolerance = GLOSSARY.find((e) => e.id === 'tolerance')!;

describe('a term in a text', () => {
  const term = () => {
    render(<Explained text="Enter the tolerance first." />);
    return screen.getByText('tolerance');
  };

  it('explains itself on focus, and the explanation belongs to it for a screen reader', () => {
    const it = term();
    expect(screen.queryByRole('tooltip')).toBeNull();
    fireEvent.focus(it);
    const bubble = screen.getByRole('tooltip');
    expect(bubble.textContent).toContain(tolerance.text);
    expect(bubble.textContent).toContain(tolerance.example);
    expect(it.getAttribute('aria-describedby')).toBe(bubble.id);
    fireEvent.blur(it);
    expect(screen.queryByRole('tooltip')).toBeNull();
  });

  it('is hidden by Escape', () => {
    const it = term();
    fireEvent.focus(it);
    fireEvent.keyDown(it, { key: 'Escape' });
    expect(screen.queryByRole('tooltip')).toBeNull();
  });

  it('explains itself on a tap, which does not go on to the field of its label', () => {
    const it = term();
    const went = fireEvent.click(it);
    expect(went).toBe(false);
    expect(screen.getByRole('tooltip').textContent).toContain(tolerance.text);
  });

  it('leaves a text without terms as it is', () => {
    const { container } = render(<Explained text="Nothing to explain." />);
    expect(container.innerHTML).toBe('Nothing to explain.');
  });
});

describe('the help page', () => {
  const open = () => {
    render(
      <MemoryRouter>
        <HelpPage />
      </MemoryRouter>,
    );
    return within(screen.getByRole('region', { name: 'Terms' }));
  };
  const search = (text: string) =>
    fireEvent.change(screen.getByLabelText('Search terms'), { target: { value: text } });
  const titles = () => [...document.querySelectorAll('dt')].map((d) => d.textContent);

  it('lists every term, in order of the alphabet', () => {
    open();
    expect(titles()).toHaveLength(GLOSSARY.length);
    expect(titles()).toEqual(titles().toSorted((a, b) => a!.localeCompare(b!, 'en')));
  });

  it('finds a term by its name first, then by what its explanation says', () => {
    open();
    search('TOLERANCE ');
    expect(titles()[0]).toBe('Tolerance');
    expect(titles().length).toBeGreaterThan(1);
    expect(titles().length).toBeLessThan(GLOSSARY.length);
  });

  it('says so when nothing is found, and finds all again without a search', () => {
    const terms = open();
    search('zzz');
    expect(terms.getByText('No term found')).toBeTruthy();
    search('');
    expect(titles()).toHaveLength(GLOSSARY.length);
  });
});
