import type { Static } from 'typebox';
import * as Type from 'typebox';
import { Marking } from '../course/marking.js';
import { LateRule } from '../exercise/document.js';
import { closed, Count, Id, orNull, Reason, Time } from './common.js';
import { Working } from './learning.js';
import { Bench } from './messages.js';

/** What server and web say to each other about a course: its people, dates, corrections and marks. */

const When = Type.String({ format: 'date-time' });
const short = Type.String({ maxLength: 60 });

/* People */

export const ListFiles = Type.Array(
  Type.Object({ name: Type.String({ maxLength: 200 }), text: Type.String({ maxLength: 1_000_000 }) }, closed),
  { minItems: 1, maxItems: 8 },
);
export const RosterUpload = Type.Object(
  { files: ListFiles, apply: Type.Boolean({ description: 'False for a preview, which changes nothing.' }) },
  closed,
);
export type RosterUpload = Static<typeof RosterUpload>;

export const PersonalLink = Type.Object(
  {
    name: Type.String(),
    email: Type.String(),
    studentNumber: Type.String(),
    group: Type.String(),
    path: Type.String(),
  },
  closed,
);
export type PersonalLink = Static<typeof PersonalLink>;

export const RosterPlan = Type.Object(
  {
    rows: Type.Array(
      Type.Object(
        {
          line: Type.Integer(),
          email: Type.String(),
          name: Type.String(),
          studentNumber: orNull(Type.String()),
          group: orNull(Type.String()),
          change: Type.Enum(['new', 'joins', 'back', 'changed', 'known']),
          words: Type.String(),
        },
        closed,
      ),
    ),
    unread: Type.Array(Type.Object({ line: Type.Integer(), text: Type.String(), problem: Type.String() }, closed)),
    links: Type.Array(PersonalLink, { description: 'For new people to choose a password; shown this once.' }),
  },
  closed,
);
export type RosterPlan = Static<typeof RosterPlan>;

export const MemberChange = Type.Object(
  {
    studentNumber: Type.Optional(short),
    group: Type.Optional(short),
    removed: Type.Optional(Type.Boolean({ description: 'Out of the course; work is kept and comes back.' })),
  },
  closed,
);
export type MemberChange = Static<typeof MemberChange>;

export const LinksWanted = Type.Object(
  { mail: Type.Boolean({ description: 'Sent by mail instead of shown.' }) },
  closed,
);
export const Links = Type.Object(
  { links: Type.Array(PersonalLink), sent: Type.Integer({ description: 'How many are sent by mail.' }) },
  closed,
);
export type Links = Static<typeof Links>;

/* Dates */

const dates = { visibleFrom: orNull(Time), dueAt: orNull(Time), late: orNull(LateRule) };
export const ExtensionRow = Type.Object(
  {
    id: Id,
    personId: orNull(Id),
    group: orNull(Type.String()),
    ...dates,
    reason: Type.String(),
    by: Type.String(),
    at: Time,
  },
  closed,
);
export type ExtensionRow = Static<typeof ExtensionRow>;
export const ExerciseDates = Type.Object({ ...dates, extensions: Type.Array(ExtensionRow) }, closed);
export type ExerciseDates = Static<typeof ExerciseDates>;
export const NewExtension = Type.Object(
  {
    personIds: Type.Array(Id, { maxItems: 500 }),
    groups: Type.Array(Type.String({ minLength: 1, maxLength: 60 }), { maxItems: 50 }),
    visibleFrom: orNull(When),
    dueAt: orNull(When),
    late: orNull(LateRule),
    reason: Reason,
  },
  closed,
);
export type NewExtension = Static<typeof NewExtension>;

/* Corrections */

export const NewCorrection = Type.Object(
  {
    version: Count({ minimum: 1 }),
    partIds: Type.Array(Type.String({ maxLength: 32 }), { maxItems: 26, description: 'Empty for every part.' }),
    submissionIds: Type.Array(Id, { maxItems: 5000, description: 'Empty for every answer.' }),
  },
  closed,
);
export type NewCorrection = Static<typeof NewCorrection>;

const correction = {
  id: Id,
  version: Type.Integer(),
  state: Type.Enum(['checking', 'ready', 'cancelled', 'applied']),
  done: Type.Integer(),
  total: Type.Integer(),
  by: Type.String(),
  at: Time,
  counting: orNull(Type.Enum(['better', 'newer'])),
  reason: Type.String(),
  givesBack: Type.Boolean(),
  appliedAt: orNull(Time),
};
export const Correction = Type.Object(correction, closed);
export type Correction = Static<typeof Correction>;

export const Recheck = Type.Object(
  {
    submissionId: Id,
    personId: Id,
    name: Type.String(),
    partId: Type.String(),
    attempt: Type.Integer(),
    before: Type.Object(
      { points: Type.Number(), outOf: Type.Number(), words: Type.String(), version: Type.Integer() },
      closed,
    ),
    after: orNull(Type.Object({ points: Type.Number(), outOf: Type.Number(), words: Type.String() }, closed)),
    problem: orNull(Type.String()),
    byHand: Type.Boolean({ description: 'Points were set by a person and stay.' }),
  },
  closed,
);
export type Recheck = Static<typeof Recheck>;
export const CorrectionPreview = Type.Object({ ...correction, rows: Type.Array(Recheck) }, closed);
export type CorrectionPreview = Static<typeof CorrectionPreview>;
export const ApplyCorrection = Type.Object(
  { counting: Type.Enum(['better', 'newer']), reason: Reason, givesBack: Type.Boolean() },
  closed,
);
export type ApplyCorrection = Static<typeof ApplyCorrection>;

/* Marks */

const exerciseOfMarks = Type.Object(
  { id: Id, title: Type.String(), outOf: Type.Number(), dueAt: orNull(Time), parts: Type.Array(Type.String()) },
  closed,
);
export const MarksCell = Type.Object(
  {
    points: orNull(Type.Number()),
    outOf: Type.Number(),
    excused: orNull(Type.String({ description: 'The reason, where it does not count.' })),
    open: Type.Boolean(),
    parts: Type.Array(orNull(Type.Number())),
    counting: Type.Enum(['counts', 'dropped', 'excused', 'open']),
  },
  closed,
);
export type MarksCell = Static<typeof MarksCell>;
export const MarksRow = Type.Object(
  {
    person: Type.Object(
      { id: Id, name: Type.String(), email: Type.String(), studentNumber: Type.String(), group: Type.String() },
      closed,
    ),
    cells: Type.Array(MarksCell, { description: 'In the order of the exercises.' }),
    sets: Type.Array(orNull(Type.Number()), { description: 'Share reached in each set.' }),
    total: orNull(Type.Number({ description: 'Share reached, 1 for all.' })),
  },
  closed,
);
export type MarksRow = Static<typeof MarksRow>;
export const Marks = Type.Object(
  {
    course: Type.String(),
    marking: Marking,
    exercises: Type.Array(exerciseOfMarks),
    rows: Type.Array(MarksRow),
  },
  closed,
);
export type Marks = Static<typeof Marks>;

export const Excuse = Type.Object({ excused: Type.Boolean(), reason: Reason }, closed);
export type Excuse = Static<typeof Excuse>;

export const ExportKind = Type.Enum(['exercises', 'parts', 'oneRosterResults', 'oneRosterLineItems']);
export type ExportKind = Static<typeof ExportKind>;
export const NewExport = Type.Object({ kind: ExportKind }, closed);
export const ExportRow = Type.Object(
  { id: Id, kind: Type.String(), name: Type.String(), by: Type.String(), at: Time },
  closed,
);
export type ExportRow = Static<typeof ExportRow>;
export const ExportFile = Type.Object({ id: Id, name: Type.String(), content: Type.String() }, closed);
export type ExportFile = Static<typeof ExportFile>;

export const LogRow = Type.Object(
  {
    at: Time,
    by: Type.String(),
    words: Type.String(),
    reason: Type.String(),
    exercise: orNull(Type.String()),
    person: orNull(Type.String()),
  },
  closed,
);
export type LogRow = Static<typeof LogRow>;

/* The course itself */

export const CourseCopy = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 100, pattern: '\\S' }),
    weeks: Type.Integer({ minimum: -520, maximum: 520, description: 'By how many weeks its dates move.' }),
    zone: Type.String({ maxLength: 60, description: 'Where its clocks are, as in Europe/Berlin.' }),
  },
  closed,
);
export type CourseCopy = Static<typeof CourseCopy>;
export const CourseChange = Type.Object(
  {
    name: Type.Optional(Type.String({ minLength: 1, maxLength: 100, pattern: '\\S' })),
    archived: Type.Optional(Type.Boolean()),
  },
  closed,
);
export type CourseChange = Static<typeof CourseChange>;

/* Answers from elsewhere */

export const EnteredAnswers = Type.Object(
  { text: Type.String({ maxLength: 1_000_000 }), apply: Type.Boolean() },
  closed,
);
export type EnteredAnswers = Static<typeof EnteredAnswers>;
export const EnteredPlan = Type.Object(
  {
    rows: Type.Array(
      Type.Object(
        {
          line: Type.Integer(),
          name: Type.String(),
          partId: Type.String(),
          part: Type.String(),
          text: Type.String(),
          problem: orNull(Type.String()),
          known: Type.Boolean({ description: 'This answer was entered before and is not entered again.' }),
        },
        closed,
      ),
    ),
    entered: Type.Integer(),
  },
  closed,
);
export type EnteredPlan = Static<typeof EnteredPlan>;

/* Paper */

export const PaperSheet = Type.Object(
  {
    person: orNull(
      Type.Object({ id: Id, name: Type.String(), studentNumber: Type.String(), group: Type.String() }, closed),
    ),
    parameters: Bench.properties.parameters,
    statement: Type.String(),
    diagrams: Bench.properties.diagrams,
    parts: Bench.properties.parts,
    solutions: Bench.properties.solutions,
    workings: Type.Array(Type.Object({ partId: Type.String(), steps: Working }, closed), {
      description: 'The way to each answer, where it was asked for.',
    }),
  },
  closed,
);
export type PaperSheet = Static<typeof PaperSheet>;
export const Paper = Type.Object(
  {
    exerciseId: Id,
    version: Type.Integer(),
    course: Type.String(),
    title: Type.String(),
    dueAt: orNull(Time),
    series: Bench.properties.series,
    pictures: Bench.properties.pictures,
    students: Type.Integer({ description: 'How many sheets there are in all, where each student has one.' }),
    sheets: Type.Array(PaperSheet),
  },
  closed,
);
export type Paper = Static<typeof Paper>;

/* The class over the term */

export const TermOverview = Type.Object(
  {
    exercises: Type.Array(
      Type.Object(
        {
          id: Id,
          title: Type.String(),
          dueAt: orNull(Time),
          students: Type.Integer(),
          handedIn: Type.Integer(),
          mean: orNull(Type.Number({ description: 'Mean share of points of those who handed in.' })),
          nails: Type.Array(
            Type.Object(
              { part: Type.String(), label: Type.String(), held: Type.Integer(), of: Type.Integer() },
              closed,
            ),
          ),
          slips: Type.Array(Type.Object({ id: Type.String(), words: Type.String(), students: Type.Integer() }, closed)),
          perDay: Type.Array(Type.Object({ daysBefore: Type.Integer(), answers: Type.Integer() }, closed), {
            description: 'Answers by day; days count down to the due date, or up from the first answer.',
          }),
        },
        closed,
      ),
    ),
  },
  closed,
);
export type TermOverview = Static<typeof TermOverview>;
