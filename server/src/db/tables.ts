import type { Knex } from 'knex';
import { calibrationsTable } from './calibrations.ts';
import { evidenceTable } from './evidence.ts';
import { gadgetsTable } from './gadgets.ts';
import { linksTable } from './links.ts';
import { logbookTable } from './logbook.ts';
import { ownReferencesTable } from './ownReferences.ts';
import { partsTable } from './parts.ts';
import { pointsTable } from './points.ts';
import { recordingsTable } from './recordings.ts';
import { runPlansTable } from './runPlans.ts';
import { studiesTable } from './studies.ts';
import { trialsTable } from './trials.ts';

/** One repository a table. */
export function tables(knex: Knex) {
  return {
    gadgets: gadgetsTable(knex),
    parts: partsTable(knex),
    ownReferences: ownReferencesTable(knex),
    points: pointsTable(knex),
    evidence: evidenceTable(knex),
    calibrations: calibrationsTable(knex),
    links: linksTable(knex),
    recordings: recordingsTable(knex),
    runPlans: runPlansTable(knex),
    studies: studiesTable(knex),
    trials: trialsTable(knex),
    logbook: logbookTable(knex),
  };
}

export type Tables = ReturnType<typeof tables>;
