import type { Knex } from 'knex';
import { packOverview } from './overview.ts';

/** Works out the overview of every chunk that was stored before there were any. */
export async function fillOverviews(knex: Knex): Promise<void> {
  const keys: { recording_id: string; seq: number }[] = await knex('chunks').select('recording_id', 'seq');
  for (const key of keys) {
    const row: { count: number; samples: Buffer; first_time_s: number; last_time_s: number } = await knex(
      'chunks',
    )
      .where(key)
      .first();
    const all = new Float64Array(new Uint8Array(row.samples).buffer);
    const part = (i: number) => all.subarray(row.count * i, row.count * (i + 1));
    const columns = Array.from({ length: all.length / row.count - 1 }, (_, k) => part(k + 1));
    await knex('overviews').insert({
      ...key,
      first_time_s: row.first_time_s,
      last_time_s: row.last_time_s,
      data: packOverview({ times: part(0), columns }),
    });
  }
}
