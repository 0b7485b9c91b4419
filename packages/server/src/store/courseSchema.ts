import type { LateRule, Sheet } from '@nailset/core';
import {
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { courses, exercises, id, now, people, submissions, time } from './schema.js';

/** Tables of what goes on round exercises and answers; nothing else refers to them. */

/** Dates of a group or of one person, instead of the exercise’s own. */
export const extensions = pgTable(
  'extensions',
  {
    id: id(),
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    personId: uuid('person_id').references(() => people.id),
    group: text('group_name'),
    visibleFrom: time('visible_from'),
    dueAt: time('due_at'),
    late: jsonb('late').$type<LateRule>(),
    reason: text('reason').notNull(),
    byPersonId: uuid('by_person_id')
      .notNull()
      .references(() => people.id),
    at: now('at'),
  },
  (t) => [unique().on(t.exerciseId, t.personId), unique().on(t.exerciseId, t.group)],
);

/** What staff say to a student about an answer; never changed. */
export const comments = pgTable(
  'comments',
  {
    id: id(),
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submissions.id),
    text: text('text').notNull(),
    byPersonId: uuid('by_person_id')
      .notNull()
      .references(() => people.id),
    at: now('at'),
  },
  (t) => [index('comments_submission').on(t.submissionId, t.at)],
);

/** Who has looked at an answer that wanted a person; never changed. */
export const looks = pgTable(
  'looks',
  {
    id: id(),
    submissionId: uuid('submission_id')
      .notNull()
      .references(() => submissions.id),
    byPersonId: uuid('by_person_id')
      .notNull()
      .references(() => people.id),
    at: now('at'),
  },
  (t) => [index('looks_submission').on(t.submissionId, t.at)],
);

/** Everything by which staff change marks, dates or people; never changed. It holds no names, only whom it is about. */
export const courseLog = pgTable(
  'course_log',
  {
    id: id(),
    courseId: uuid('course_id')
      .notNull()
      .references(() => courses.id),
    exerciseId: uuid('exercise_id').references(() => exercises.id),
    personId: uuid('person_id').references(() => people.id),
    byPersonId: uuid('by_person_id')
      .notNull()
      .references(() => people.id),
    words: text('words').notNull(),
    reason: text('reason').notNull().default(''),
    at: now('at'),
  },
  (t) => [index('course_log_course').on(t.courseId, t.at)],
);

/** Exercises that do not count for someone. */
export const excused = pgTable(
  'excused',
  {
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    reason: text('reason').notNull(),
  },
  (t) => [primaryKey({ columns: [t.exerciseId, t.personId] })],
);

/** What was given out of the gradebook, as it was then. */
export const exports = pgTable(
  'exports',
  {
    id: id(),
    courseId: uuid('course_id')
      .notNull()
      .references(() => courses.id),
    byPersonId: uuid('by_person_id')
      .notNull()
      .references(() => people.id),
    kind: text('kind').notNull(),
    name: text('name').notNull(),
    content: text('content').notNull(),
    at: now('at'),
  },
  (t) => [index('exports_course').on(t.courseId, t.at)],
);

/** Sheets of the open bench. Their makers’ browsers name them, so that saving one twice makes one. */
export const sheets = pgTable(
  'sheets',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    /** Whose members may look at it. */
    courseId: uuid('course_id').references(() => courses.id),
    sheet: jsonb('sheet').$type<Sheet>().notNull(),
    revision: integer('revision').notNull().default(1),
    savedAt: now('saved_at'),
  },
  (t) => [index('sheets_person').on(t.personId, t.savedAt), index('sheets_course').on(t.courseId, t.savedAt)],
);

/** Hints that someone has asked for, with what each costs later answers. */
export const hintsTaken = pgTable(
  'hints_taken',
  {
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    partId: text('part_id').notNull(),
    /** Counted from 1. */
    number: integer('number').notNull(),
    cost: doublePrecision('cost').notNull(),
    at: now('at'),
  },
  (t) => [primaryKey({ columns: [t.exerciseId, t.personId, t.partId, t.number] })],
);

/** Answers to other numbers, ungraded: only what came of them is kept. */
export const practised = pgTable(
  'practised',
  {
    id: id(),
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercises.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => people.id),
    partId: text('part_id').notNull(),
    met: boolean('met').notNull(),
    slip: text('slip'),
    at: now('at'),
  },
  (t) => [index('practised_person').on(t.personId, t.exerciseId, t.partId, t.at)],
);
