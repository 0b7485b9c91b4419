import type { Static } from 'typebox';
import * as Type from 'typebox';
import { Verdict } from '../checking/verdict.js';
import type { Drawing } from '../diagram/layout.js';
import { Trail } from '../exercise/answer.js';
import { ExerciseDocument } from '../exercise/document.js';
import { Answer } from '../exercise/parts.js';
import { StudentPart } from '../exercise/parts.js';
import { FigureMeasures, Samples, ShownDiagram } from '../exercise/seen.js';
import { closed, CommentRow, CorrectedBy, Count, Id, orNull, Person, Time } from './common.js';

/** What server and web say to each other; each message once, as JSON Schema with its type. */

export { CommentRow, CorrectedBy, Id, Person };

export const Role = Type.Enum(['instructor', 'assistant', 'student']);
export type Role = Static<typeof Role>;

export const ErrorMessage = Type.Object({
  error: Type.Object({
    code: Type.String(),
    message: Type.String({ description: 'What happened and what to do, for people.' }),
    at: Type.Optional(Type.Integer({ description: 'Zero-based position in the typed text.' })),
    wait: Type.Optional(Type.Integer({ description: 'Seconds until the next try.' })),
    request: Type.Optional(Type.String({ description: 'Names the request in the log of the server.' })),
    findings: Type.Optional(
      Type.Array(
        Type.Object({ path: Type.String(), message: Type.String(), at: Type.Optional(Type.Integer()) }, closed),
      ),
    ),
  }),
});
export type ErrorMessage = Static<typeof ErrorMessage>;

export const Membership = Type.Object(
  { courseId: Id, course: Type.String(), role: Role, archived: Type.Boolean() },
  closed,
);
export type Membership = Static<typeof Membership>;

export const Session = Type.Object(
  {
    csrfToken: Type.String(),
    person: orNull(Person),
    memberships: Type.Array(Membership),
    demo: Type.Array(Type.Object({ name: Type.String(), email: Type.String(), role: Role }, closed), {
      description: 'People of the demo course to sign in as; empty outside demo mode.',
    }),
    demoPassword: Type.Optional(Type.String()),
    mail: Type.Boolean({ description: 'Whether a link to set a new password can be sent by mail.' }),
  },
  closed,
);
export type Session = Static<typeof Session>;

const email = Type.String({ minLength: 3, maxLength: 200, pattern: '^[^\\s@]+@[^\\s@]+$' });
const password = Type.String({ minLength: 10, maxLength: 200 });
const name = Type.String({ minLength: 1, maxLength: 100, pattern: '\\S' });
const joinCode = Type.String({ minLength: 1, maxLength: 20 });

export const SignIn = Type.Object(
  { email: Type.String({ maxLength: 200 }), password: Type.String({ maxLength: 200 }) },
  closed,
);
export type SignIn = Static<typeof SignIn>;

export const Registration = Type.Object({ name, email, password, joinCode: Type.Optional(joinCode) }, closed);
export type Registration = Static<typeof Registration>;

export const PasswordChange = Type.Object({ current: Type.String({ maxLength: 200 }), password }, closed);
export type PasswordChange = Static<typeof PasswordChange>;
export const ResetRequest = Type.Object({ email }, closed);
export const PasswordByLink = Type.Object({ token: Type.String({ maxLength: 100 }), password }, closed);
export type PasswordByLink = Static<typeof PasswordByLink>;
export const ResetLink = Type.Object(
  { path: Type.String({ description: 'To be opened at the address of this installation.' }), expiresAt: Time },
  closed,
);
export type ResetLink = Static<typeof ResetLink>;
export const SessionRow = Type.Object(
  { id: Id, browser: Type.String(), createdAt: Time, seenAt: Time, current: Type.Boolean() },
  closed,
);
export type SessionRow = Static<typeof SessionRow>;

export const Join = Type.Object({ joinCode }, closed);
export const NewCourse = Type.Object(
  { name, courseKey: Type.Optional(Type.String({ maxLength: 100, description: 'Shown by ./nailset start.' })) },
  closed,
);
export type NewCourse = Static<typeof NewCourse>;

export const CoursePeople = Type.Object(
  {
    course: Type.String(),
    joinCode: Type.String(),
    archived: Type.Boolean(),
    mail: Type.Boolean({ description: 'Whether personal links can be sent by mail.' }),
    people: Type.Array(
      Type.Object(
        {
          ...Person.properties,
          role: Role,
          studentNumber: Type.String(),
          group: Type.String(),
          removed: Type.Boolean(),
          waiting: Type.Boolean({ description: 'Has never chosen a password yet.' }),
        },
        closed,
      ),
    ),
  },
  closed,
);
export type CoursePeople = Static<typeof CoursePeople>;
export const RoleChange = Type.Object({ role: Role }, closed);

export const ShelfRow = Type.Object(
  {
    id: Id,
    title: Type.String(),
    version: orNull(Type.Integer()),
    changed: Type.Boolean({ description: 'The draft differs from the published version.' }),
    visibleFrom: orNull(Time),
    dueAt: orNull(Time),
    extensions: Type.Integer({ description: 'How many people and groups have dates of their own.' }),
    parts: Type.Integer(),
    points: Type.Number(),
    students: Type.Integer(),
    handedIn: Type.Integer({ description: 'Students who handed in at least one part.' }),
    archived: Type.Boolean(),
    wantingLook: Type.Integer({ description: 'Answers close to a limit, or not checked in time.' }),
  },
  closed,
);
export type ShelfRow = Static<typeof ShelfRow>;
export const Shelf = Type.Object(
  { course: Type.String(), joinCode: Type.String(), exercises: Type.Array(ShelfRow) },
  closed,
);
export type Shelf = Static<typeof Shelf>;

export const HomeRow = Type.Object(
  {
    id: Id,
    title: Type.String(),
    dueAt: orNull(Time),
    extended: orNull(Type.String({ description: 'Why these dates are the student’s own.' })),
    points: orNull(Type.Number()),
    outOf: Type.Number(),
    parts: Type.Array(
      Type.Object(
        { id: Type.String(), title: Type.String(), state: Type.Enum(['open', 'handedIn', 'met', 'missed']) },
        closed,
      ),
    ),
  },
  closed,
);
export type HomeRow = Static<typeof HomeRow>;
export const Home = Type.Object({ course: Type.String(), exercises: Type.Array(HomeRow) }, closed);
export type Home = Static<typeof Home>;

export const Draft = Type.Object(
  {
    id: Id,
    courseId: Id,
    course: Type.String(),
    document: ExerciseDocument,
    revision: Type.Integer(),
    savedAt: Time,
    version: orNull(Type.Integer()),
    changed: Type.Boolean(),
    visibleFrom: orNull(Time),
    dueAt: orNull(Time),
    archived: Type.Boolean(),
    submissions: Type.Integer(),
  },
  closed,
);
export type Draft = Static<typeof Draft>;
export const DraftSave = Type.Object({ revision: Count(), document: ExerciseDocument }, closed);
export type DraftSave = Static<typeof DraftSave>;
export const DraftSaved = Type.Object({ revision: Type.Integer(), savedAt: Time }, closed);
export type DraftSaved = Static<typeof DraftSaved>;
export const ExerciseChange = Type.Object(
  {
    visibleFrom: Type.Optional(orNull(Type.String({ format: 'date-time' }))),
    dueAt: Type.Optional(orNull(Type.String({ format: 'date-time' }))),
    archived: Type.Optional(Type.Boolean()),
  },
  closed,
);
export type ExerciseChange = Static<typeof ExerciseChange>;
export const Version = Type.Object(
  { number: Type.Integer(), publishedAt: Time, by: Type.String(), submissions: Type.Integer() },
  closed,
);
export type Version = Static<typeof Version>;
export const Publish = Type.Object(
  {
    revision: Count(),
    newNumbers: Type.Optional(
      Type.Boolean({
        description: 'Numbers are drawn anew for everyone; otherwise students keep those they have seen.',
      }),
    ),
  },
  closed,
);
export const Publishing = Type.Object(
  {
    seen: Type.Integer({ description: 'Students who have seen their numbers.' }),
    ruledOut: Type.Integer({ description: 'Of these, whose numbers the draft no longer allows: they get others.' }),
    parts: Type.Array(
      Type.Object(
        {
          title: Type.String(),
          change: Type.Enum(['added', 'removed', 'kind', 'points']),
          before: Type.Number(),
          after: Type.Number(),
          handedIn: Type.Integer({ description: 'Students who have handed it in.' }),
        },
        closed,
      ),
    ),
    fixed: Type.Array(Type.Object({ symbol: Type.String(), before: Type.String(), after: Type.String() }, closed), {
      description: 'Fixed parameters whose value changes for everyone.',
    }),
  },
  { ...closed, description: 'What publishing the draft would change, and for whom.' },
);
export type Publishing = Static<typeof Publishing>;
export const Published = Type.Object({ version: Type.Integer() }, closed);
export const Created = Type.Object({ id: Id }, closed);

export const Attempt = Type.Object(
  {
    id: Id,
    partId: Type.String(),
    attempt: Type.Integer(),
    version: Type.Integer(),
    handedInAt: Time,
    answer: Answer,
    checked: Type.Boolean({ description: 'Whether its check is done; a verdict is shown when the exercise says so.' }),
    outOfTime: Type.Boolean({ description: 'The check was stopped, so there is no verdict.' }),
    verdict: Type.Optional(Verdict),
    override: Type.Optional(Type.Object({ points: Type.Number(), reason: Type.String() }, closed)),
    points: Type.Optional(Type.Number({ description: 'What it gives, after hints, the late rule and any decision.' })),
    hintCost: Type.Optional(Type.Number({ description: 'Points that hints took from it.' })),
    corrected: Type.Optional(CorrectedBy),
    comments: Type.Array(CommentRow),
    returned: Type.Boolean({ description: 'This try was given back and does not count as used.' }),
  },
  closed,
);
export type Attempt = Static<typeof Attempt>;

export const Bench = Type.Object(
  {
    exerciseId: Id,
    versionId: Id,
    version: Type.Integer(),
    courseId: Id,
    course: Type.String(),
    title: Type.String(),
    statement: Type.String(),
    attempts: Type.Integer(),
    dueAt: orNull(Time),
    extended: orNull(Type.String({ description: 'Why these dates are the student’s own.' })),
    parameters: Type.Array(
      Type.Object({ symbol: Type.String(), meaning: Type.String(), unit: Type.String(), value: Type.String() }, closed),
    ),
    blocks: Type.Array(Type.Object({ name: Type.String(), text: Type.String() }, closed), {
      description: 'Blocks of diagrams that answers may use by name, as expressions.',
    }),
    open: Type.Array(Type.Object({ name: Type.String(), text: Type.String() }, closed), {
      description: 'Systems that may be looked at on the open bench, as expressions.',
    }),
    series: ExerciseDocument.properties.series,
    pictures: ExerciseDocument.properties.pictures,
    diagrams: Type.Array(ShownDiagram),
    drawings: Type.Optional(
      Type.Array(Type.Object({ of: Type.String(), drawing: Type.Unsafe<Drawing>(Type.Any()) }, closed), {
        description: 'Where the parts of diagrams stand, as far as that is worked out; a browser can do it, too.',
      }),
    ),
    shows: ExerciseDocument.properties.shows,
    late: ExerciseDocument.properties.late,
    layout: Type.Enum(['together', 'single']),
    parts: Type.Array(StudentPart),
    mayHandIn: Type.Boolean(),
    closesAt: orNull(Time),
    saved: Type.Array(
      Type.Object(
        { partId: Type.String(), answer: Answer, trail: Trail, savedAt: Time, revision: Type.Integer() },
        closed,
      ),
    ),
    handedIn: Type.Array(Attempt),
    solutions: Type.Array(
      Type.Object(
        {
          partId: Type.String(),
          text: Type.String(),
          curve: Type.Optional(Samples),
        },
        closed,
      ),
      { description: 'Expected answers, only of parts where the instructor allows it by now.' },
    ),
    revealed: Type.Array(Type.Object({ partId: Type.String(), curves: Type.Array(Samples) }, closed), {
      description: 'Curves of predictions that were committed.',
    }),
    measured: Type.Array(Type.Object({ partId: Type.String(), curves: FigureMeasures }, closed), {
      description: 'Of the curves beside a part, told together with the expected answers.',
    }),
    hints: Type.Array(Type.Object({ partId: Type.String(), texts: Type.Array(Type.String()) }, closed), {
      description: 'Hints that were asked for.',
    }),
    working: Type.Boolean({ description: 'Whether the way to the expected answers may be asked for.' }),
    practice: Type.Array(Type.String(), { description: 'Parts that may be practised with other numbers.' }),
  },
  closed,
);
export type Bench = Static<typeof Bench>;

export const AnswerSave = Type.Object(
  {
    answer: Answer,
    trail: Trail,
    base: Count({ description: 'The revision that was changed; 0 where nothing was saved.' }),
    page: Type.String({ pattern: '^[A-Za-z0-9_-]{8,64}$', description: 'The open page that saves.' }),
    count: Count({ minimum: 1, description: 'Of the saves of this page, rising: an older one is refused.' }),
  },
  closed,
);
export type AnswerSave = Static<typeof AnswerSave>;
export const AnswerSaved = Type.Object({ savedAt: Time, revision: Type.Integer() }, closed);
export type AnswerSaved = Static<typeof AnswerSaved>;

export const HandIn = Type.Object(
  {
    key: Type.String({ pattern: '^[A-Za-z0-9_-]{16,64}$', description: 'Made by the client; a retry repeats it.' }),
    versionId: Id,
    partId: Type.String({ maxLength: 32 }),
    answer: Answer,
    trail: Trail,
  },
  closed,
);
export type HandIn = Static<typeof HandIn>;
