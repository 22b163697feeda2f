import { fillOverviews } from './fillOverviews.ts';
import type { Knex } from 'knex';
import { moveAlarm } from './oldFace.ts';
import { stagesForFigures } from './oldFigures.ts';
import { renewGadget, type OldGadget } from './oldGadget.ts';

interface Migration {
  readonly name: string;
  up(knex: Knex): Promise<void>;
}

/** In order; never edit one that has shipped, add another. */
export const MIGRATIONS: readonly Migration[] = [
  {
    name: '001-first',
    async up(knex) {
      const statements = [
        `CREATE TABLE gadgets (
          id TEXT PRIMARY KEY, template TEXT NOT NULL, name TEXT NOT NULL, version INTEGER NOT NULL,
          created_at TEXT NOT NULL, updated_at TEXT NOT NULL, deleted_at TEXT,
          place TEXT NOT NULL, brief TEXT, pick TEXT, hookup TEXT, channels TEXT NOT NULL, face TEXT,
          sample_rate_hz REAL NOT NULL
        ) STRICT`,
        `CREATE TABLE points (
          id TEXT PRIMARY KEY, gadget_id TEXT NOT NULL REFERENCES gadgets(id) ON DELETE CASCADE,
          channel_id TEXT NOT NULL, role TEXT NOT NULL, reference TEXT NOT NULL, worth TEXT NOT NULL,
          capture TEXT NOT NULL, excluded TEXT, kept_at TEXT NOT NULL
        ) STRICT`,
        `CREATE INDEX points_of_gadget ON points(gadget_id, kept_at)`,
        `CREATE TABLE calibrations (
          id TEXT PRIMARY KEY, gadget_id TEXT NOT NULL REFERENCES gadgets(id) ON DELETE CASCADE,
          channel_id TEXT NOT NULL, number INTEGER NOT NULL, state TEXT NOT NULL, result TEXT NOT NULL,
          point_ids TEXT NOT NULL, note TEXT NOT NULL, created_at TEXT NOT NULL, used_at TEXT,
          UNIQUE (gadget_id, channel_id, number)
        ) STRICT`,
        `CREATE TABLE links (
          id TEXT PRIMARY KEY, gadget_id TEXT NOT NULL UNIQUE REFERENCES gadgets(id) ON DELETE CASCADE,
          kind TEXT NOT NULL, name TEXT NOT NULL, truth TEXT NOT NULL, speed REAL NOT NULL
        ) STRICT`,
        `CREATE TABLE recordings (
          id TEXT PRIMARY KEY, gadget_id TEXT NOT NULL REFERENCES gadgets(id) ON DELETE CASCADE,
          name TEXT NOT NULL, state TEXT NOT NULL, started_at TEXT NOT NULL, ended_at TEXT, columns TEXT NOT NULL,
          sample_rate_hz REAL NOT NULL, sample_count INTEGER NOT NULL, first_time_s REAL, last_time_s REAL,
          lost_readings INTEGER NOT NULL, issues TEXT NOT NULL, note TEXT NOT NULL, excluded TEXT
        ) STRICT`,
        `CREATE INDEX recordings_of_gadget ON recordings(gadget_id, started_at)`,
        `CREATE TABLE chunks (
          recording_id TEXT NOT NULL REFERENCES recordings(id) ON DELETE CASCADE, seq INTEGER NOT NULL,
          first_time_s REAL NOT NULL, last_time_s REAL NOT NULL, count INTEGER NOT NULL,
          ranges BLOB NOT NULL, samples BLOB NOT NULL, checksum INTEGER NOT NULL,
          PRIMARY KEY (recording_id, seq)
        ) STRICT`,
        `CREATE TABLE logbook (
          id TEXT PRIMARY KEY, gadget_id TEXT REFERENCES gadgets(id) ON DELETE CASCADE,
          at TEXT NOT NULL, step TEXT NOT NULL, text TEXT NOT NULL
        ) STRICT`,
        `CREATE INDEX logbook_of_gadget ON logbook(gadget_id, at)`,
      ];
      for (const statement of statements) await knex.raw(statement);
    },
  },
  {
    name: '002-asks-picks-and-parts',
    async up(knex) {
      await knex.raw(`ALTER TABLE gadgets ADD COLUMN picks TEXT NOT NULL DEFAULT '[]'`);
      await knex.raw(`ALTER TABLE gadgets ADD COLUMN cautions_read TEXT NOT NULL DEFAULT '[]'`);
      const read = (text: string | null) => (text === null ? null : JSON.parse(text));
      const write = (value: unknown) => (value === null ? null : JSON.stringify(value));
      for (const row of await knex('gadgets').select('id', 'brief', 'pick', 'hookup', 'channels')) {
        const old = {
          brief: read(row.brief),
          pick: read(row.pick),
          hookup: read(row.hookup),
          channels: read(row.channels),
        } as OldGadget;
        const { brief, picks, hookup, channels } = renewGadget(old);
        await knex('gadgets')
          .where({ id: row.id })
          .update({
            brief: write(brief),
            picks: JSON.stringify(picks),
            hookup: write(hookup),
            channels: JSON.stringify(channels),
          });
      }
      await knex.raw('ALTER TABLE gadgets DROP COLUMN pick');
      await knex.raw(`CREATE TABLE parts (
        id TEXT PRIMARY KEY, part TEXT NOT NULL, version INTEGER NOT NULL,
        created_at TEXT NOT NULL, updated_at TEXT NOT NULL, deleted_at TEXT
      ) STRICT`);
    },
  },
  {
    name: '003-evidence-and-own-references',
    async up(knex) {
      await knex.raw(`CREATE TABLE evidence (
        id TEXT PRIMARY KEY, gadget_id TEXT NOT NULL REFERENCES gadgets(id) ON DELETE CASCADE,
        channel_id TEXT NOT NULL, evidence TEXT NOT NULL, excluded TEXT, kept_at TEXT NOT NULL
      ) STRICT`);
      await knex.raw(`CREATE INDEX evidence_of_gadget ON evidence(gadget_id, kept_at)`);
      await knex.raw(`ALTER TABLE recordings ADD COLUMN versions TEXT NOT NULL DEFAULT '{}'`);
      await knex.raw(`CREATE TABLE own_references (
        id TEXT PRIMARY KEY, reference TEXT NOT NULL, version INTEGER NOT NULL,
        created_at TEXT NOT NULL, deleted_at TEXT
      ) STRICT`);
    },
  },
  {
    name: '004-links-of-several-kinds',
    async up(knex) {
      await knex.raw(`ALTER TABLE links ADD COLUMN settings TEXT NOT NULL DEFAULT '{"kind":"simulated"}'`);
      await knex.raw(`ALTER TABLE links ADD COLUMN mapping TEXT NOT NULL DEFAULT 'null'`);
      await knex.raw(`ALTER TABLE links ADD COLUMN token_hash TEXT`);
    },
  },
  {
    name: '005-overviews-pieces-and-markers',
    async up(knex) {
      await knex.raw(`ALTER TABLE recordings ADD COLUMN pieces TEXT NOT NULL DEFAULT 'null'`);
      await knex.raw(`ALTER TABLE recordings ADD COLUMN markers TEXT NOT NULL DEFAULT '[]'`);
      await knex.raw(`ALTER TABLE recordings ADD COLUMN source_checksum TEXT`);
      await knex.raw(`ALTER TABLE recordings ADD COLUMN deleted_at TEXT`);
      await knex.raw(`CREATE TABLE overviews (
        recording_id TEXT NOT NULL REFERENCES recordings(id) ON DELETE CASCADE, seq INTEGER NOT NULL,
        first_time_s REAL NOT NULL, last_time_s REAL NOT NULL, data BLOB NOT NULL,
        PRIMARY KEY (recording_id, seq)
      ) STRICT`);
      await fillOverviews(knex);
    },
  },
  {
    name: '006-readings-of-recordings',
    async up(knex) {
      await knex.raw(`CREATE TABLE reading_views (
        id TEXT PRIMARY KEY, recording_id TEXT NOT NULL REFERENCES recordings(id) ON DELETE CASCADE,
        used_at INTEGER NOT NULL, complete INTEGER NOT NULL, next TEXT NOT NULL
      ) STRICT`);
      await knex.raw(`CREATE INDEX views_of_recording ON reading_views(recording_id, used_at)`);
      await knex.raw(`CREATE TABLE reading_segments (
        view_id TEXT NOT NULL REFERENCES reading_views(id) ON DELETE CASCADE, seq INTEGER NOT NULL,
        first_time_s REAL NOT NULL, last_time_s REAL NOT NULL, start TEXT NOT NULL, tally TEXT NOT NULL,
        every64 BLOB NOT NULL, every512 BLOB NOT NULL, every4096 BLOB NOT NULL,
        PRIMARY KEY (view_id, seq)
      ) STRICT`);
      // What the lines remembered when a recording of a live link began, by what they are made of.
      await knex.raw(`CREATE TABLE reading_starts (
        recording_id TEXT NOT NULL REFERENCES recordings(id) ON DELETE CASCADE, key TEXT NOT NULL,
        memory TEXT NOT NULL, PRIMARY KEY (recording_id, key)
      ) STRICT`);
    },
  },
  {
    name: '007-studies',
    async up(knex) {
      await knex.raw(`CREATE TABLE studies (
        id TEXT PRIMARY KEY, gadget_id TEXT NOT NULL REFERENCES gadgets(id) ON DELETE CASCADE,
        version INTEGER NOT NULL, kind TEXT NOT NULL, channel_id TEXT NOT NULL, figure_id TEXT, title TEXT NOT NULL,
        done_by TEXT NOT NULL, place TEXT NOT NULL, settings TEXT NOT NULL, evidence TEXT NOT NULL,
        stretches TEXT NOT NULL, created_at TEXT NOT NULL, updated_at TEXT NOT NULL, deleted_at TEXT
      ) STRICT`);
      await knex.raw(`CREATE INDEX studies_of_gadget ON studies(gadget_id, created_at)`);
    },
  },
  {
    name: '008-trials',
    async up(knex) {
      await knex.raw(`CREATE TABLE trial_rules (
        gadget_id TEXT PRIMARY KEY REFERENCES gadgets(id) ON DELETE CASCADE, rule TEXT NOT NULL
      ) STRICT`);
      await knex.raw(`CREATE TABLE trial_notes (
        recording_id TEXT NOT NULL REFERENCES recordings(id) ON DELETE CASCADE, at_s REAL NOT NULL,
        label TEXT NOT NULL, note TEXT NOT NULL, excluded TEXT, PRIMARY KEY (recording_id, at_s)
      ) STRICT`);
    },
  },
  {
    name: '009-run-plans',
    async up(knex) {
      await knex.raw(`CREATE TABLE run_plans (
        gadget_id TEXT PRIMARY KEY REFERENCES gadgets(id) ON DELETE CASCADE, plan TEXT NOT NULL
      ) STRICT`);
    },
  },
  {
    name: '010-alarms',
    async up(knex) {
      await knex.raw('ALTER TABLE gadgets ADD COLUMN alarms TEXT');
      for (const { id, face, channels, brief } of await knex<OldFace>('gadgets').whereNotNull('face')) {
        const moved = moveAlarm(
          JSON.parse(face),
          JSON.parse(channels),
          brief === null ? null : JSON.parse(brief),
        );
        await knex('gadgets')
          .where({ id })
          .update({ face: JSON.stringify(moved.face), alarms: JSON.stringify(moved.alarms) });
      }
    },
  },
  {
    name: '011-due',
    up: (knex) => knex.raw('ALTER TABLE calibrations ADD COLUMN good_for_months INTEGER'),
  },
  {
    name: '012-stages-over-channels',
    async up(knex) {
      for (const { id, channels, alarms } of await knex<OldChannels>('gadgets')) {
        const put = stagesForFigures(JSON.parse(channels), alarms === null ? [] : JSON.parse(alarms));
        if (!put.isMoved) continue;
        await knex('gadgets')
          .where({ id })
          .update({
            channels: JSON.stringify(put.channels),
            alarms: alarms === null ? null : JSON.stringify(put.alarms),
          });
      }
    },
  },
];

interface OldChannels {
  readonly id: string;
  readonly channels: string;
  readonly alarms: string | null;
}

interface OldFace {
  readonly id: string;
  readonly face: string;
  readonly channels: string;
  readonly brief: string | null;
}
