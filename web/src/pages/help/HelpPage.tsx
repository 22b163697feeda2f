import { useMemo, useState } from 'react';
import { GLOSSARY, type GlossaryEntry } from '@lucky-needle/core/words';
import { Brand } from '../../app/shell/Brand.tsx';
import { KeyTable } from '../../app/shell/KeyTable.tsx';
import { ThemeSwitch } from '../../app/shell/ThemeSwitch.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';

const inOrder = GLOSSARY.toSorted((a, b) => a.term.localeCompare(b.term, 'en'));

const STEPS = [
  ['Brief', 'Say what the gadget must measure, and how accurately.'],
  ['Pick', 'Choose parts that meet the brief.'],
  ['Hook-up', 'Wire them, and check every wire at the first power-up.'],
  ['Link', 'Connect the gadget, so that its readings arrive. A simulated one will do to practise.'],
  ['Line', 'Turn raw counts into a reading, and find events and results in it.'],
  ['True-up', 'Calibrate against references.'],
  ['Prove', 'See which claims pass, and what to do next.'],
  ['Runs', 'Record, compare trials, export.'],
  ['Face', 'Arrange the display and set alarms.'],
] as const;

/** What every step is for, the terms that pages use, and the keys. */
export function HelpPage() {
  const [wanted, setWanted] = useState('');
  const found = useMemo(() => matching(wanted), [wanted]);
  return (
    <div className="flex min-h-dvh flex-col bg-base-200">
      <header className="rail flex items-center justify-between bg-neutral px-5 py-4 text-neutral-content lg:px-10">
        <Brand />
        <ThemeSwitch />
      </header>
      <main id="main" tabIndex={-1} className="mx-auto w-full max-w-6xl grow p-4 lg:px-10 lg:py-6">
        <PageHead title="Help" />
        <div className="grid items-start gap-4 lg:grid-cols-[1fr_22rem]">
          <section className="panel min-w-0" aria-label="Terms">
            <div className="flex flex-wrap items-center gap-3">
              <h2 className="section-title mr-auto">Terms</h2>
              <input
                type="search"
                className="input input-sm w-full sm:w-72"
                aria-label="Search terms"
                placeholder="Search terms and explanations"
                value={wanted}
                onChange={(e) => setWanted(e.target.value)}
              />
            </div>
            <p className="muted mt-1 text-sm">
              On every page, terms with a dotted line explain themselves when you point at them, tap them or
              move to them with Tab.
            </p>
            {found.length === 0 ? (
              <EmptyState title="No term found">Try another word, or clear the search.</EmptyState>
            ) : (
              <dl className="mt-2 divide-y divide-base-300">
                {found.map((entry) => (
                  <div key={entry.id} id={entry.id} className="py-2.5">
                    <dt className="font-semibold">{entry.term}</dt>
                    <dd className="text-sm">{entry.text}</dd>
                    <dd className="muted text-sm">Example: {entry.example}</dd>
                  </div>
                ))}
              </dl>
            )}
          </section>
          <div className="grid min-w-0 gap-4">
            <section className="panel" aria-label="Steps">
              <h2>Steps</h2>
              <ol className="mt-2 grid gap-1.5 text-sm">
                {STEPS.map(([title, what]) => (
                  <li key={title}>
                    <span className="font-semibold">{title}.</span> {what}
                  </li>
                ))}
              </ol>
              <p className="muted mt-2 text-sm">The logbook notes every step with its date.</p>
            </section>
            <section className="panel overflow-x-auto" aria-label="Keyboard shortcuts">
              <h2>Keyboard shortcuts</h2>
              <KeyTable />
            </section>
          </div>
        </div>
      </main>
    </div>
  );
}

/** Entries that hold every typed word, those with it in their name first. */
function matching(wanted: string): readonly GlossaryEntry[] {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const nameOf = ({ term, also }: GlossaryEntry) => [term, ...also].join(' ').toLowerCase();
  const found = inOrder.filter((e) => {
    const text = `${nameOf(e)} ${e.text} ${e.example}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const inName = (e: GlossaryEntry) => words.every((word) => nameOf(e).includes(word));
  return [...found.filter(inName), ...found.filter((e) => !inName(e))];
}
