import type { Knex } from 'knex';
import { Calibration, type CalibrationPatch } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface CalibrationRow {
  id: string;
  gadget_id: string;
  channel_id: string;
  number: number;
  state: Calibration['state'];
  result: string;
  point_ids: string;
  note: string;
  created_at: string;
  used_at: string | null;
  /** Null where nobody has said. */
  good_for_months: number | null;
}

export function calibrationsTable(knex: Knex) {
  const table = () => knex<CalibrationRow>('calibrations');
  return {
    async list(gadgetId: string): Promise<Calibration[]> {
      const rows = await table().where({ gadget_id: gadgetId }).orderBy(['channel_id', 'number']);
      return soundOf(CALIBRATION_ROWS, rows);
    },
    async find(id: string): Promise<{ gadgetId: string; calibration: Calibration } | null> {
      const row = await table().where({ id }).first();
      return row ? { gadgetId: row.gadget_id, calibration: readRow(CALIBRATION_ROWS, row) } : null;
    },
    async nextNumber(gadgetId: string, channelId: string): Promise<number> {
      const [row] = await table().where({ gadget_id: gadgetId, channel_id: channelId }).max({ n: 'number' });
      return Number(row?.['n'] ?? 0) + 1;
    },
    async insert(gadgetId: string, calibration: Calibration): Promise<void> {
      await table().insert({
        id: calibration.id,
        gadget_id: gadgetId,
        channel_id: calibration.channelId,
        number: calibration.number,
        state: calibration.state,
        result: JSON.stringify(calibration.result),
        point_ids: JSON.stringify(calibration.pointIds),
        note: calibration.note,
        created_at: calibration.createdAt,
        used_at: calibration.usedAt,
        good_for_months: calibration.goodForMonths ?? null,
      });
    },
    async patch(id: string, { goodForMonths }: CalibrationPatch): Promise<void> {
      await table().where({ id }).update({ good_for_months: goodForMonths });
    },
    /** Puts one in use and marks the one before as replaced, in one step. */
    async use(gadgetId: string, channelId: string, id: string, at: string): Promise<void> {
      await knex.transaction(async (trx) => {
        await trx('calibrations')
          .where({ gadget_id: gadgetId, channel_id: channelId, state: 'in use' })
          .update({ state: 'replaced' });
        await trx('calibrations').where({ id }).update({ state: 'in use', used_at: at });
      });
    },
  };
}

function fromRow(row: CalibrationRow): Calibration {
  return {
    id: row.id,
    channelId: row.channel_id,
    number: row.number,
    state: row.state,
    result: JSON.parse(row.result),
    pointIds: JSON.parse(row.point_ids),
    note: row.note,
    createdAt: row.created_at,
    usedAt: row.used_at,
    ...(row.good_for_months === null ? {} : { goodForMonths: row.good_for_months }),
  };
}

export const CALIBRATION_ROWS: RowKind<CalibrationRow, Calibration> = {
  table: 'calibrations',
  what: 'calibration',
  schema: Calibration,
  fromRow,
};
