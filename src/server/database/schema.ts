import {
  bigint,
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { outcomes, verdicts as verdictKinds } from '@/core/criteria';
import { stages } from '@/core/shapes';

/** What people say: projects and their revisions, as trees of documents addressed by content. Every row a person caused names the actor. */
export const projects = pgTable('projects', {
  id: serial().primaryKey(),
  /** What a project is, whatever it is called and wherever it was exported to. */
  identity: uuid().notNull().defaultRandom().unique(),
  /** The word that stands for it in addresses. */
  slug: text().notNull().unique(),
  name: text().notNull(),
  about: text().notNull().default(''),
  createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  createdBy: text().notNull(),
});

/** Text of a document, LF line ends, stored once however many revisions hold it. */
export const documents = pgTable('documents', {
  hash: text().primaryKey(),
  content: text().notNull(),
});

export const revisions = pgTable(
  'revisions',
  {
    id: serial().primaryKey(),
    projectId: integer()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    createdBy: text().notNull(),
    note: text().notNull().default(''),
  },
  (table) => [uniqueIndex('revisions_by_number').on(table.projectId, table.number)],
);

export const revisionFiles = pgTable(
  'revision_files',
  {
    revisionId: integer()
      .notNull()
      .references(() => revisions.id, { onDelete: 'cascade' }),
    path: text().notNull(),
    hash: text()
      .notNull()
      .references(() => documents.hash),
  },
  (table) => [primaryKey({ columns: [table.revisionId, table.path] })],
);

/** What was found: campaigns, their runs, and what each criterion showed in each run. */
export const campaigns = pgTable(
  'campaigns',
  {
    id: serial().primaryKey(),
    projectId: integer()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    revisionId: integer()
      .notNull()
      .references(() => revisions.id, { onDelete: 'cascade' }),
    state: text({ enum: ['queued', 'running', 'paused', 'finished', 'stopped'] })
      .notNull()
      .default('queued'),
    /** The campaign document it runs, by its name; of one that runs cases as they are, nothing. */
    document: text(),
    /** Those of higher priority come first. */
    priority: integer().notNull().default(0),
    total: integer().notNull(),
    /** How far the runs of a campaign document have been looked at by its stop rule (`LookedAt`, as JSON). */
    looked: text(),
    /** What the campaign rests on: cases, plans, points and seeds. */
    ground: text(),
    /** What its runs said of each criterion once it was over (`CampaignSummary`, as JSON). */
    summary: text(),
    /** What its runs touched of the logic, put together once it was over (`TouchedByRuns`, as JSON). */
    touched: text(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    createdBy: text().notNull(),
    startedAt: timestamp({ withTimezone: true }),
    finishedAt: timestamp({ withTimezone: true }),
  },
  (table) => [index('campaigns_by_project').on(table.projectId, table.id)],
);

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });

/**
 * Runs of a campaign document, some at a time: what waits is the queue, what is done holds what the runs found, by columns (`RunTable`). A worker takes as many from the
 * beginning of a batch as take about a second, and leaves the rest as a batch of its own.
 */
export const batches = pgTable(
  'batches',
  {
    campaignId: integer()
      .notNull()
      .references(() => campaigns.id, { onDelete: 'cascade' }),
    /** Number of its first run, from 1. */
    first: integer().notNull(),
    count: integer().notNull(),
    state: text({ enum: ['queued', 'running', 'done'] })
      .notNull()
      .default('queued'),
    attempts: integer().notNull().default(0),
    begunAt: timestamp({ withTimezone: true }),
    worker: integer(),
    /** Runs of it that fail or ended in an error. */
    failed: integer(),
    /** Time its runs took in their threads. */
    busyMs: doublePrecision(),
    bytes: bytea(),
    numbers: bytea(),
    notes: text(),
    /** What its runs touched of the logic (`TouchedByRuns`, as JSON). */
    touched: text(),
  },
  (table) => [
    primaryKey({ columns: [table.campaignId, table.first] }),
    index('batches_by_state').on(table.state, table.worker),
    index('batches_waiting').on(table.campaignId, table.state),
  ],
);

/** Searches that tried to break a criterion, in vain. */
export const tries = pgTable(
  'tries',
  {
    id: serial().primaryKey(),
    projectId: integer()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    requirement: text().notNull(),
    criterion: text().notNull(),
    /** Runs in which it was triggered. */
    runs: integer().notNull(),
    /** The least margin there was (`Margin`, as JSON). */
    margin: text(),
    /** What the search rested on: plan, sentence and text of the requirement. */
    ground: text().notNull(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    createdBy: text().notNull(),
  },
  (table) => [index('tries_by_project').on(table.projectId, table.requirement)],
);

export const runs = pgTable(
  'runs',
  {
    id: serial().primaryKey(),
    campaignId: integer()
      .notNull()
      .references(() => campaigns.id, { onDelete: 'cascade' }),
    projectId: integer().notNull(),
    number: integer().notNull(),
    caseName: text().notNull(),
    stage: text({ enum: stages }).notNull().default('model'),
    seed: bigint({ mode: 'number' }).notNull(),
    state: text({ enum: ['queued', 'running', 'done'] })
      .notNull()
      .default('queued'),
    /** How often the run was begun; more than once only where a worker died over it. */
    attempts: integer().notNull().default(0),
    begunAt: timestamp({ withTimezone: true }),
    /** The worker that holds the run; its lease is an advisory lock, which falls with its connection. */
    worker: integer(),
    verdict: text({ enum: verdictKinds }),
    fingerprint: text(),
    traceHash: text(),
    error: text(),
    errorAt: doublePrecision(),
    /** Why the run may not contribute a pass. */
    discounted: text(),
    gaveUp: text(),
    simulatedSeconds: doublePrecision(),
    elapsedMs: doublePrecision(),
    /** What it touched of the logic (`Touched`, as JSON). */
    touched: text(),
    /** How a run of code or of a bench compares with the model (`BackToBack`, as JSON). */
    backToBack: text(),
    /** Of a run on a bench: which one, and how it kept its time (`BenchRecord`, as JSON). */
    bench: text(),
    finishedAt: timestamp({ withTimezone: true }),
  },
  (table) => [
    uniqueIndex('runs_by_number').on(table.campaignId, table.number),
    index('runs_by_case').on(table.projectId, table.caseName, table.id),
    index('runs_by_state').on(table.state, table.worker),
    index('runs_waiting').on(table.campaignId, table.state),
    index('runs_under_way').on(table.projectId, table.state),
  ],
);

export const verdicts = pgTable(
  'verdicts',
  {
    runId: integer()
      .notNull()
      .references(() => runs.id, { onDelete: 'cascade' }),
    requirement: text().notNull(),
    criterion: text().notNull(),
    verdict: text({ enum: verdictKinds }).notNull(),
    obligations: integer().notNull(),
    /** Ordinal of the worst obligation in this run. */
    worst: integer(),
    evidence: text().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.runId, table.requirement, table.criterion] }),
    index('verdicts_by_requirement').on(table.requirement, table.runId),
  ],
);

export const obligations = pgTable(
  'obligations',
  {
    runId: integer()
      .notNull()
      .references(() => runs.id, { onDelete: 'cascade' }),
    requirement: text().notNull(),
    criterion: text().notNull(),
    ordinal: integer().notNull(),
    owedFrom: doublePrecision().notNull(),
    owedUntil: doublePrecision().notNull(),
    outcome: text({ enum: outcomes }).notNull(),
    at: doublePrecision().notNull(),
    margin: doublePrecision(),
    unit: text(),
    measure: doublePrecision(),
    atLeast: boolean().notNull().default(false),
    reason: text(),
  },
  (table) => [primaryKey({ columns: [table.runId, table.requirement, table.criterion, table.ordinal] })],
);

/** What was recorded in runs that nobody can make again, those on a bench: result and trace, packed. */
export const traces = pgTable('traces', {
  runId: integer()
    .primaryKey()
    .references(() => runs.id, { onDelete: 'cascade' }),
  bytes: bytea().notNull(),
});

/** What was made of the controllers of a loop: the record of each build, the newest last. The library itself lies among the files of the machine that made it. */
export const builds = pgTable(
  'builds',
  {
    id: serial().primaryKey(),
    projectId: integer()
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    /** The revision it was first made of. */
    revisionId: integer()
      .notNull()
      .references(() => revisions.id, { onDelete: 'cascade' }),
    /** Key of the loop. */
    loop: text().notNull(),
    fingerprint: text().notNull(),
    hash: text().notNull(),
    /** `BuildRecord`, as JSON. */
    record: text().notNull(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    createdBy: text().notNull(),
  },
  (table) => [uniqueIndex('builds_by_loop').on(table.projectId, table.loop, table.hash)],
);

/** A running worker process; alive as long as it holds the advisory lock of its number. */
export const workers = pgTable('workers', {
  id: serial().primaryKey(),
  startedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  /** Runs it makes at once. */
  threads: integer().notNull().default(1),
});
