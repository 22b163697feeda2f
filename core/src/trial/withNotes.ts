import type { Trial, TrialNote } from '../model/trial.ts';

/** A trial of which nothing is said yet. */
export type BareTrial = Omit<Trial, 'saidAtS' | 'label' | 'note' | 'excluded'>;

/** How far beside a trial a note may lie and still be meant for it, s: a rule that is set otherwise cuts a little elsewhere. */
const NEAR_S = 0.5;

/**
 * Trials with what their maker said of them. A note is of the trial that its moment lies in, or nearest to; of several in one
 * trial, such as those of a rule that cut finer, the one nearest to its begin counts, and the others are kept.
 * @returns with the notes whose trial is not there any more
 */
export function withNotes(
  trials: readonly BareTrial[],
  notes: readonly TrialNote[],
): { readonly trials: Trial[]; readonly lost: TrialNote[] } {
  const of = new Map<string, TrialNote>();
  const lost: TrialNote[] = [];
  for (const note of notes) {
    const near = trials
      .filter((t) => t.recordingId === note.recordingId)
      .map((trial) => ({ trial, away: Math.max(0, trial.fromS - note.atS, note.atS - trial.toS) }))
      .filter(({ away }) => away <= NEAR_S)
      .toSorted(
        (a, b) => a.away - b.away || Math.abs(a.trial.fromS - note.atS) - Math.abs(b.trial.fromS - note.atS),
      )[0];
    if (!near) lost.push(note);
    else {
      const { trial } = near;
      const other = of.get(trial.id);
      if (!other || Math.abs(note.atS - trial.fromS) < Math.abs(other.atS - trial.fromS))
        of.set(trial.id, note);
    }
  }
  return {
    trials: trials.map((trial) => {
      const note = of.get(trial.id);
      return {
        ...trial,
        saidAtS: note?.atS ?? null,
        label: note?.label ?? '',
        note: note?.note ?? '',
        excluded: note?.excluded ?? null,
      };
    }),
    lost,
  };
}
