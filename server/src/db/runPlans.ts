import type { Knex } from 'knex';
import { RunPlan } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface PlanRecord {
  gadget_id: string;
  plan: string;
}

export interface PlanOfGadget {
  readonly gadgetId: string;
  readonly plan: RunPlan;
}

/** When runs begin and end by themselves: one plan a gadget. */
export function runPlansTable(knex: Knex) {
  const rows = () => knex<PlanRecord>('run_plans');
  return {
    async find(gadgetId: string): Promise<RunPlan | null> {
      const row = await rows().where({ gadget_id: gadgetId }).first();
      return row ? readRow(RUN_PLAN_ROWS, row) : null;
    },
    /** All that can be read. */
    async list(): Promise<PlanOfGadget[]> {
      const all: PlanOfGadget[] = [];
      for (const row of await rows())
        for (const plan of soundOf(RUN_PLAN_ROWS, [row])) all.push({ gadgetId: row.gadget_id, plan });
      return all;
    },
    async set(gadgetId: string, plan: RunPlan): Promise<void> {
      await rows()
        .insert({ gadget_id: gadgetId, plan: JSON.stringify(plan) })
        .onConflict('gadget_id')
        .merge();
    },
    async remove(gadgetId: string): Promise<void> {
      await rows().where({ gadget_id: gadgetId }).delete();
    },
  };
}

export const RUN_PLAN_ROWS: RowKind<PlanRecord, RunPlan> = {
  table: 'run_plans',
  what: 'run schedule',
  schema: RunPlan,
  fromRow: ({ plan }) => JSON.parse(plan) as RunPlan,
};
