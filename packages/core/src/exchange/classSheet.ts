import type { Static } from 'typebox';
import * as Type from 'typebox';
import { RecognisedSlip, Verdict } from '../checking/verdict.js';
import { Trail } from '../exercise/answer.js';
import { DrawValues, ExerciseDocument } from '../exercise/document.js';
import { Answer, Part } from '../exercise/parts.js';
import { closed, CommentRow, CorrectedBy, Id, orNull, Person, Reason, Time } from './common.js';

/** What server and web say to each other about the answers of a class. */

/** What a part's systems need beside the part itself. */
const given = { systems: ExerciseDocument.properties.systems, series: ExerciseDocument.properties.series };

const SheetCell = Type.Object(
  {
    submissionId: Id,
    attempt: Type.Integer(),
    version: Type.Integer(),
    checked: Type.Boolean({ description: 'False while its check waits or runs.' }),
    outOfTime: Type.Boolean({ description: 'The check was stopped, so there is no verdict.' }),
    met: Type.Boolean(),
    points: Type.Number(),
    outOf: Type.Number(),
    look: Type.Boolean(),
    tries: Type.Array(Type.Object({ submissionId: Id, attempt: Type.Integer(), points: Type.Number() }, closed), {
      description: 'Every try, oldest first.',
    }),
    items: Type.Array(Type.Object({ id: Type.String(), met: Type.Boolean(), close: Type.Boolean() }, closed)),
    slip: orNull(RecognisedSlip),
  },
  closed,
);
export type SheetCell = Static<typeof SheetCell>;
export const SheetRow = Type.Object(
  {
    person: Person,
    group: Type.String(),
    studentNumber: Type.String(),
    points: orNull(Type.Number()),
    cells: Type.Record(Type.String(), SheetCell),
  },
  closed,
);
export type SheetRow = Static<typeof SheetRow>;
export const ClassSheet = Type.Object(
  {
    exerciseId: Id,
    courseId: Id,
    course: Type.String(),
    title: Type.String(),
    version: Type.Integer(),
    dueAt: orNull(Time),
    outOf: Type.Number(),
    parts: Type.Array(Part),
    ...given,
    rows: Type.Array(SheetRow),
    flock: Type.Array(
      Type.Object(
        { submissionId: Id, personId: Id, partId: Type.String(), values: DrawValues, answer: Answer },
        closed,
      ),
      { description: 'Every student’s best answer to every part, with the numbers it was given for.' },
    ),
  },
  closed,
);
export type ClassSheet = Static<typeof ClassSheet>;

export const Handed = Type.Object(
  {
    id: Id,
    person: Person,
    part: Part,
    ...given,
    values: DrawValues,
    attempt: Type.Integer(),
    version: Type.Integer(),
    handedInAt: Time,
    answer: Answer,
    trail: Trail,
    expected: orNull(Type.String()),
    checked: Type.Boolean(),
    verdict: orNull(Verdict),
    points: Type.Number({ description: 'After the late rule and any decision.' }),
    outOf: Type.Number(),
    overrides: Type.Array(
      Type.Object({ points: Type.Number(), reason: Type.String(), by: Type.String(), at: Time }, closed),
    ),
    corrected: orNull(CorrectedBy),
    comments: Type.Array(CommentRow),
    review: Type.Array(Type.String(), { description: 'Why a person should look; empty for no need.' }),
    looked: Type.Boolean({ description: 'A person has looked since it was checked.' }),
    returned: Type.Boolean({ description: 'This try was given back.' }),
    tries: Type.Array(
      Type.Object({ id: Id, attempt: Type.Integer(), points: Type.Number(), counts: Type.Boolean() }, closed),
    ),
  },
  closed,
);
export type Handed = Static<typeof Handed>;
export const Override = Type.Object(
  { points: Type.Number({ minimum: 0, maximum: 100 }), reason: Type.String({ minLength: 3, maxLength: 500 }) },
  closed,
);
export type Override = Static<typeof Override>;

export const PartAnswer = Type.Object(
  {
    submissionId: Id,
    personId: Id,
    name: Type.String(),
    attempt: Type.Integer(),
    version: Type.Integer(),
    handedInAt: Time,
    answer: Answer,
    values: DrawValues,
    text: Type.String({ description: 'The answer as it was typed or set.' }),
    expected: orNull(Type.String()),
    checked: Type.Boolean(),
    met: Type.Boolean(),
    words: Type.String(),
    slip: orNull(Type.String()),
    points: Type.Number(),
    outOf: Type.Number(),
    counts: Type.Boolean({ description: 'Of this student’s tries, the one that counts.' }),
    review: Type.Array(Type.String(), { description: 'Why a person should look; empty for no need.' }),
  },
  closed,
);
export type PartAnswer = Static<typeof PartAnswer>;
export const PartAnswers = Type.Object({ answers: Type.Array(PartAnswer) }, closed);
export type PartAnswers = Static<typeof PartAnswers>;

export const ManyPoints = Type.Object(
  {
    submissionIds: Type.Array(Id, { minItems: 1, maxItems: 1000 }),
    points: Type.Number({ minimum: 0, maximum: 100 }),
    reason: Reason,
  },
  closed,
);
export type ManyPoints = Static<typeof ManyPoints>;
export const NewComment = Type.Object({ text: Type.String({ minLength: 1, maxLength: 2000, pattern: '\\S' }) }, closed);
