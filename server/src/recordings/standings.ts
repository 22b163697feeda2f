import type { Knex } from 'knex';

/** Where a recording that goes on stands: what pages and the next start are told of it. */
export interface Standing {
  readonly id: string;
  readonly total: number;
  readonly lastTimeS: number;
  readonly lost: number;
  /** As JSON. */
  readonly issues: string;
}

/** Recordings that are told in one statement: their values stay below what one may have. */
const AT_ONCE = 200;

/** Writes where many recordings stand, in few statements. */
export async function writeStandings(trx: Knex, standings: readonly Standing[]): Promise<void> {
  for (let from = 0; from < standings.length; from += AT_ONCE) {
    const some = standings.slice(from, from + AT_ONCE);
    await trx.raw(
      `UPDATE recordings SET
         sample_count = now.column2,
         last_time_s = now.column3,
         first_time_s = (SELECT first_time_s FROM chunks WHERE recording_id = recordings.id AND seq = 0),
         lost_readings = now.column4,
         issues = now.column5
       FROM (VALUES ${some.map(() => '(?, ?, ?, ?, ?)').join(', ')}) AS now
       WHERE recordings.id = now.column1`,
      some.flatMap((s) => [s.id, s.total, s.lastTimeS, s.lost, s.issues]),
    );
  }
}
