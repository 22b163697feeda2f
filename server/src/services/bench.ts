import type { Knex } from 'knex';
import type { Links } from '../capture/links.ts';
import type { Tables } from '../db/tables.ts';

/** What the services work with. `changed` tells open pages. */
export interface Bench {
  readonly knex: Knex;
  readonly tables: Tables;
  readonly links: Links;
  readonly dataDir: string;
  /** Folders below which log files may be followed. */
  readonly followDirs: readonly string[];
  now(): string;
  /** Why the database is not where it should be, in words; null when it is. */
  databaseProblem(): string | null;
  changed(gadgetId: string, what: string): void;
  /** The same for what belongs to no gadget. */
  changedForAll(what: string): void;
  /** Gadgets of the mill have past runs to come. */
  pastOwed(): void;
}
