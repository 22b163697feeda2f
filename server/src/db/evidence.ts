import type { Knex } from 'knex';
import { type EvidencePatch, EvidencePoint } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface EvidenceRow {
  id: string;
  gadget_id: string;
  channel_id: string;
  evidence: string;
  excluded: string | null;
  kept_at: string;
}

/** What guided true-ups were worked out from: rests, turns, drags, stretches of alternating current. */
export function evidenceTable(knex: Knex) {
  const table = () => knex<EvidenceRow>('evidence');
  return {
    async list(gadgetId: string): Promise<EvidencePoint[]> {
      const rows = await table().where({ gadget_id: gadgetId }).orderBy('kept_at').orderBy('id');
      return soundOf(EVIDENCE_ROWS, rows);
    },
    async find(id: string): Promise<{ gadgetId: string; point: EvidencePoint } | null> {
      const row = await table().where({ id }).first();
      return row ? { gadgetId: row.gadget_id, point: readRow(EVIDENCE_ROWS, row) } : null;
    },
    async insert(gadgetId: string, point: EvidencePoint): Promise<void> {
      await table().insert({
        id: point.id,
        gadget_id: gadgetId,
        channel_id: point.channelId,
        evidence: JSON.stringify(point.evidence),
        excluded: point.excluded,
        kept_at: point.keptAt,
      });
    },
    async patch(id: string, patch: EvidencePatch): Promise<void> {
      await table().where({ id }).update(patch);
    },
  };
}

function fromRow(row: EvidenceRow): EvidencePoint {
  return {
    id: row.id,
    channelId: row.channel_id,
    evidence: JSON.parse(row.evidence),
    excluded: row.excluded,
    keptAt: row.kept_at,
  };
}

export const EVIDENCE_ROWS: RowKind<EvidenceRow, EvidencePoint> = {
  table: 'evidence',
  what: 'calibration evidence',
  schema: EvidencePoint,
  fromRow,
};
