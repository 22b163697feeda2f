import type { Knex } from 'knex';
import {
  Calibration,
  CalibrationPoint,
  EvidencePoint,
  Gadget,
  LineMapping,
  LinkSettings,
  LogEntry,
  OwnPart,
  OwnReference,
  Recording,
} from '@lucky-needle/core/model';
import { Type, type TSchema } from 'typebox';
import { tables } from '../db/tables.ts';
import { answerCheck } from '../http/validate.ts';

const PAGE = 200;

class RolledBack extends Error {}

/**
 * Whether every row of a workspace, deleted ones and all, is one that the API can answer, and belongs to rows that are there.
 * @throws {Error} that names the first one that is not
 */
export async function checkRows(knex: Knex): Promise<void> {
  const strays = (await knex.raw('PRAGMA foreign_key_check')) as { table: string; parent: string }[];
  if (strays.length > 0)
    throw new Error(
      `${strays.length} rows, the first in "${strays[0]!.table}", belong to rows of "${strays[0]!.parent}" that are not there`,
    );
  // Deleted rows come back by a click: they are looked at as if they had, and nothing of that stays.
  await knex
    .transaction(async (trx) => {
      await trx('gadgets').update({ deleted_at: null });
      await trx('recordings').update({ deleted_at: null });
      await checkAll(trx);
      throw new RolledBack();
    })
    .catch((error: unknown) => {
      if (!(error instanceof RolledBack)) throw error;
    });
}

async function checkAll(knex: Knex): Promise<void> {
  const of = tables(knex);
  await all('part', OwnPart, () => of.parts.list());
  await all('reference', OwnReference, () => of.ownReferences.list());
  const links = await of.links.list();
  const { n } = (await knex('links').count({ n: '*' }).first()) as { n: number };
  if (links.length !== n) throw new Error(`${n - links.length} of its links are damaged`);
  for (const { name, settings, mapping } of links) {
    one(`link "${name}"`, LinkSettings, settings);
    one(`link "${name}"`, Type.Union([LineMapping, Type.Null()]), mapping);
  }
  for (let from = 0; ; from += PAGE) {
    const gadgets = await all('gadget', Gadget, () => of.gadgets.list(PAGE, from));
    for (const { id, name } of gadgets) {
      const its = `of the gadget "${name}"`;
      await paged(`recording ${its}`, Recording, (at) => of.recordings.list(id, PAGE, at));
      await paged(`entry of the logbook ${its}`, LogEntry, (at) => of.logbook.list(id, PAGE, at));
      await all(`point ${its}`, CalibrationPoint, () => of.points.list(id));
      await all(`evidence ${its}`, EvidencePoint, () => of.evidence.list(id));
      await all(`calibration ${its}`, Calibration, () => of.calibrations.list(id));
    }
    if (gadgets.length < PAGE) return;
  }
}

async function paged(what: string, schema: TSchema, read: (from: number) => Promise<object[]>) {
  for (let from = 0; ; from += PAGE) if ((await all(what, schema, () => read(from))).length < PAGE) return;
}

async function all<T extends object>(what: string, schema: TSchema, read: () => Promise<T[]>): Promise<T[]> {
  let rows: T[];
  try {
    rows = await read();
  } catch (error) {
    throw new Error(`a ${what} cannot be read (${(error as Error).message})`, { cause: error });
  }
  for (const row of rows) one(what, schema, row);
  return rows;
}

function one(what: string, schema: TSchema, value: unknown): void {
  try {
    answerCheck(schema)(value);
  } catch (error) {
    const told = (error as Error).message.replace(/^[^:]*: /, '');
    throw new Error(`a ${what} is not what it should be (${told.slice(0, 200)})`, { cause: error });
  }
}
