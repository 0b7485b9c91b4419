import {
  type Answer,
  type DrawValues,
  type ExerciseDocument,
  type Marking,
  type Trail,
  type Verdict,
} from '@nailset/core';
import { upgraded } from '@nailset/core/checks';
import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  bigint,
  boolean,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgEnum,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

export const time = (name: string) => timestamp(name, { withTimezone: true });
export const id = () => uuid('id').primaryKey().defaultRandom();
export const now = (name: string) => time(name).notNull().defaultNow();

/** Documents of earlier formats are read in the present one; what is stored stays as it was published. */
const exerciseDocument = customType<{ data: ExerciseDocument; driverData: unknown }>({
  dataType: () => 'jsonb',
  toDriver: (document) => JSON.stringify(document),
  fromDriver: (stored) => upgraded(stored) as ExerciseDocument,
});

export const role = pgEnum('role', ['instructor', 'assistant', 'student']);

export const people = pgTable(
  'people',
  {
    id: id(),
    email: text('email').notNull(),
    name: text('name').notNull(),
    passwordHash: text('password_hash').notNull(),
    createdAt: now('created_at'),
  },
  (t) => [uniqueIndex('people_email').on(sql`lower(${t.email})`)],
);

/** Signed-in browsers. The cookie holds a random token; only its SHA-256 is kept here. */
export const sessions = pgTable(
  'sessions',
  {
    tokenHash: text('token_hash').primaryKey(),
    id: uuid('id').notNull().unique().defaultRandom(),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    expiresAt: time('expires_at').notNull(),
    createdAt: now('created_at'),
    /** To the quarter of an hour. */
    seenAt: now('seen_at'),
    /** The browser and its system in words, so that people know their own. */
    browser: text('browser').notNull().default(''),
  },
  (t) => [index('sessions_person').on(t.personId)],
);

/** Links to set a new password, each for one use. Only the SHA-256 of the token is kept. */
export const resetLinks = pgTable(
  'reset_links',
  {
    tokenHash: text('token_hash').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    /** Who of the staff made it; nobody for one that was asked for by mail. */
    madeBy: uuid('made_by').references(() => people.id),
    expiresAt: time('expires_at').notNull(),
  },
  (t) => [index('reset_links_person').on(t.personId)],
);

/** Counts of tries, shared by every server. The columns are those of rate-limiter-flexible. */
export const rateLimits = pgTable('rate_limits', {
  key: text('key').primaryKey(),
  points: integer('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number' }),
});

/** Who runs checks at present; a job of one that is no longer seen is given to another. */
export const checkWorkers = pgTable('check_workers', {
  workerId: text('worker_id').primaryKey(),
  seenAt: now('seen_at'),
});

export const courses = pgTable('courses', {
  id: id(),
  name: text('name').notNull(),
  joinCode: text('join_code').notNull().unique(),
  demo: boolean('demo').notNull().default(false),
  /** How marks are made of points; null for every point counting alike. */
  marking: jsonb('marking').$type<Marking>(),
  archivedAt: time('archived_at'),
  createdAt: now('created_at'),
});

export const memberships = pgTable(
  'memberships',
  {
    courseId: uuid('course_id')
      .notNull()
      .references(() => courses.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    role: role('role').notNull(),
    studentNumber: text('student_number').notNull().default(''),
    group: text('group_name').notNull().default(''),
    /** Out of the course since then; what they handed in is kept. */
    removedAt: time('removed_at'),
    /** They went by themselves, and may come back by the code. */
    left: boolean('left_by_choice').notNull().default(false),
  },
  (t) => [primaryKey({ columns: [t.courseId, t.personId] }), index('memberships_person').on(t.personId)],
);

/** An exercise with its draft; the draft's revision guards against two people saving over each other. */
export const exercises = pgTable(
  'exercises',
  {
    id: id(),
    courseId: uuid('course_id')
      .notNull()
      .references(() => courses.id),
    draft: exerciseDocument('draft').notNull(),
    revision: integer('revision').notNull().default(1),
    savedAt: now('saved_at'),
    visibleFrom: time('visible_from'),
    dueAt: time('due_at'),
    archived: boolean('archived').notNull().default(false),
    createdAt: now('created_at'),
  },
  (t) => [index('exercises_course').on(t.courseId)],
);

/** Published versions; never changed (a trigger refuses it). */
export const versions = pgTable(
  'versions',
  {
    id: id(),
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    number: integer('number').notNull(),
    document: exerciseDocument('document').notNull(),
    /** Numbers are drawn anew from this version on, for everyone. */
    newNumbers: boolean('new_numbers').notNull().default(false),
    publishedAt: now('published_at'),
    publishedBy: uuid('published_by')
      .notNull()
      .references(() => people.id),
  },
  (t) => [unique().on(t.exerciseId, t.number)],
);

/** Each student's numbers for each version; written when first needed, never changed. */
export const draws = pgTable(
  'draws',
  {
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    values: jsonb('values').$type<DrawValues>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.personId] })],
);

/** Answers in the making, saved while typing. */
export const savedAnswers = pgTable(
  'saved_answers',
  {
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    partId: text('part_id').notNull(),
    answer: jsonb('answer').$type<Answer>().notNull(),
    trail: jsonb('trail').$type<Trail>().notNull(),
    savedAt: now('saved_at'),
    revision: integer('revision').notNull().default(1),
    /** The open page that saved it and how many saves that page had made; a page follows only itself. */
    page: text('page').notNull().default(''),
    count: integer('count').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.exerciseId, t.personId, t.partId] })],
);

/** What was handed in; never changed. `key` is the client's, so that a retry is the same attempt. */
export const submissions = pgTable(
  'submissions',
  {
    id: id(),
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    partId: text('part_id').notNull(),
    attempt: integer('attempt').notNull(),
    key: text('key').notNull(),
    answer: jsonb('answer').$type<Answer>().notNull(),
    trail: jsonb('trail').$type<Trail>().notNull(),
    handedInAt: now('handed_in_at'),
    /** Who of the staff entered it, for what was answered elsewhere. */
    enteredBy: uuid('entered_by').references(() => people.id),
    /** Points that the hints asked for before it take from it. */
    hintCost: doublePrecision('hint_cost').notNull().default(0),
  },
  (t) => [
    unique().on(t.personId, t.exerciseId, t.partId, t.key),
    unique().on(t.exerciseId, t.personId, t.partId, t.attempt),
    // Enough to count a whole course without reading an answer.
    index('submissions_of_exercise').on(t.exerciseId, t.personId, t.id),
  ],
);

/** Every check of a submission, the newest counts; never changed. `result` is null when the check ran out of time. */
export const verdicts = pgTable(
  'verdicts',
  {
    id: id(),
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submissions.id),
    result: jsonb('result').$type<Verdict>(),
    points: doublePrecision('points').notNull(),
    checkedAt: now('checked_at'),
    /** The version it was checked against and why, where that is not the one it was handed in to. */
    versionId: uuid('version_id').references(() => versions.id),
    correctionId: uuid('correction_id').references((): AnyPgColumn => corrections.id),
    /** Wants a person: an item close to its limit, or no result. Kept beside it, so that a shelf reads no results. */
    close: boolean('close').generatedAlwaysAs(
      sql`result is null or jsonb_path_exists(result, '$.items[*] ? (@.close == true)')`,
    ),
  },
  (t) => [
    index('verdicts_newest').on(t.submissionId, t.checkedAt, t.close),
    // The few that want a person, so that a shelf need not look at the others.
    index('verdicts_wanting_look')
      .on(t.submissionId)
      .where(sql`close`),
  ],
);

/** Points set by a person with a reason, the newest counts; never changed. */
export const overrides = pgTable(
  'overrides',
  {
    id: id(),
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submissions.id),
    points: doublePrecision('points').notNull(),
    reason: text('reason').notNull(),
    byPersonId: uuid('by_person_id')
      .notNull()
      .references(() => people.id),
    at: now('at'),
  },
  (t) => [index('overrides_submission').on(t.submissionId, t.at)],
);

export const correctionState = pgEnum('correction_state', ['checking', 'ready', 'cancelled', 'applied']);

/** Answers checked again against a version: first all the verdicts, then what counts of them. */
export const corrections = pgTable(
  'corrections',
  {
    id: id(),
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    state: correctionState('state').notNull().default('checking'),
    counting: text('counting').$type<'better' | 'newer'>(),
    reason: text('reason').notNull().default(''),
    givesBack: boolean('gives_back').notNull().default(false),
    byPersonId: uuid('by_person_id')
      .notNull()
      .references(() => people.id),
    at: now('at'),
    appliedAt: time('applied_at'),
  },
  (t) => [index('corrections_exercise').on(t.exerciseId, t.at)],
);

/** What a correction found of one answer; `doneAt` is null while it waits. */
export const rechecks = pgTable(
  'rechecks',
  {
    correctionId: uuid('correction_id')
      .notNull()
      .references(() => corrections.id),
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submissions.id),
    result: jsonb('result').$type<Verdict>(),
    /** Why there is no result. */
    problem: text('problem'),
    doneAt: time('done_at'),
  },
  (t) => [
    primaryKey({ columns: [t.correctionId, t.submissionId] }),
    index('rechecks_waiting')
      .on(t.correctionId)
      .where(sql`done_at is null`),
  ],
);

/** Tries that do not count, since they were spent on a faulty version; never changed. */
export const returnedTries = pgTable('returned_tries', {
  submissionId: uuid('submission_id')
    .primaryKey()
    .references(() => submissions.id),
  correctionId: uuid('correction_id')
    .notNull()
    .references(() => corrections.id),
  at: now('at'),
});
