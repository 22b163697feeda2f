import type { Knex } from 'knex';
import {
  CalibrationPoint,
  type PointPatch,
  type ReferenceInput,
  type ReferenceValue,
} from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface PointRow {
  id: string;
  gadget_id: string;
  channel_id: string;
  role: 'fit' | 'check';
  reference: string;
  worth: string;
  capture: string;
  excluded: string | null;
  kept_at: string;
}

export function pointsTable(knex: Knex) {
  const table = () => knex<PointRow>('points');
  return {
    async list(gadgetId: string): Promise<CalibrationPoint[]> {
      return soundOf(
        POINT_ROWS,
        await table().where({ gadget_id: gadgetId }).orderBy('kept_at').orderBy('id'),
      );
    },
    async find(id: string): Promise<{ gadgetId: string; point: CalibrationPoint } | null> {
      const row = await table().where({ id }).first();
      return row ? { gadgetId: row.gadget_id, point: readRow(POINT_ROWS, row) } : null;
    },
    async insert(gadgetId: string, point: CalibrationPoint): Promise<void> {
      await table().insert({
        id: point.id,
        gadget_id: gadgetId,
        channel_id: point.channelId,
        role: point.role,
        reference: JSON.stringify(point.reference),
        worth: JSON.stringify(point.worth),
        capture: JSON.stringify(point.capture),
        excluded: point.excluded,
        kept_at: point.keptAt,
      });
    },
    async correct(id: string, reference: ReferenceInput, worth: ReferenceValue): Promise<void> {
      await table()
        .where({ id })
        .update({ reference: JSON.stringify(reference), worth: JSON.stringify(worth) });
    },
    async patch(id: string, patch: Omit<PointPatch, 'reference'>): Promise<void> {
      await table().where({ id }).update(patch);
    },
  };
}

function fromRow(row: PointRow): CalibrationPoint {
  return {
    id: row.id,
    channelId: row.channel_id,
    role: row.role,
    reference: JSON.parse(row.reference),
    worth: JSON.parse(row.worth),
    capture: JSON.parse(row.capture),
    excluded: row.excluded,
    keptAt: row.kept_at,
  };
}

export const POINT_ROWS: RowKind<PointRow, CalibrationPoint> = {
  table: 'points',
  what: 'calibration point',
  schema: CalibrationPoint,
  fromRow,
};
