import type { Knex } from 'knex';
import { TrialNote, TrialRule } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface RuleRecord {
  gadget_id: string;
  rule: string;
}

interface NoteRecord {
  recording_id: string;
  at_s: number;
  label: string;
  note: string;
  excluded: string | null;
}

/** How runs are cut into trials, and what makers say of them. The trials themselves are worked out, never kept. */
export function trialsTable(knex: Knex) {
  const rules = () => knex<RuleRecord>('trial_rules');
  const notes = () => knex<NoteRecord>('trial_notes');
  return {
    async rule(gadgetId: string): Promise<TrialRule | null> {
      const row = await rules().where({ gadget_id: gadgetId }).first();
      return row ? readRow(TRIAL_RULE_ROWS, row) : null;
    },
    async setRule(gadgetId: string, rule: TrialRule): Promise<void> {
      await rules()
        .insert({ gadget_id: gadgetId, rule: JSON.stringify(rule) })
        .onConflict('gadget_id')
        .merge();
    },
    async notes(recordingIds: readonly string[]): Promise<TrialNote[]> {
      return soundOf(TRIAL_NOTE_ROWS, await notes().whereIn('recording_id', recordingIds).orderBy('at_s'));
    },
    /** Keeps a note, in the place of another one of its run; one that says nothing is none. @param replacesS moment of that other; null for none */
    async setNote(note: TrialNote, replacesS: number | null): Promise<void> {
      await knex.transaction(async (transaction) => {
        const table = transaction<NoteRecord>('trial_notes');
        await table
          .where({ recording_id: note.recordingId })
          .whereIn('at_s', [note.atS, replacesS ?? note.atS])
          .delete();
        if (note.label === '' && note.note === '' && note.excluded === null) return;
        await transaction<NoteRecord>('trial_notes').insert({
          recording_id: note.recordingId,
          at_s: note.atS,
          label: note.label,
          note: note.note,
          excluded: note.excluded,
        });
      });
    },
  };
}

export const TRIAL_RULE_ROWS: RowKind<RuleRecord, TrialRule> = {
  table: 'trial_rules',
  what: 'trial rule',
  schema: TrialRule,
  fromRow: ({ rule }) => JSON.parse(rule) as TrialRule,
};

export const TRIAL_NOTE_ROWS: RowKind<NoteRecord, TrialNote> = {
  table: 'trial_notes',
  what: 'trial note',
  schema: TrialNote,
  fromRow: (row) => ({
    recordingId: row.recording_id,
    atS: row.at_s,
    label: row.label,
    note: row.note,
    excluded: row.excluded,
  }),
};
