import type { DrawValues, ExerciseDocument, Paper, PaperSheet, WorkingStep } from '@nailset/core';
import type { Database } from './database.js';
import { drawFor, type Drawing, factsOf, newestVersion } from './exercises.js';
import { courseWithPeople } from './people.js';

interface Shown {
  readonly versionId: string;
  readonly personId: string;
  readonly document: ExerciseDocument;
  readonly values: DrawValues;
}

/** Works out on a thread what a student sees, and what is expected. */
export interface Showing {
  seen(name: 'view', shown: Shown): Promise<Pick<PaperSheet, 'statement' | 'parameters' | 'diagrams' | 'parts'>>;
  seen(name: 'solutions', shown: Shown): Promise<PaperSheet['solutions']>;
  working(input: Pick<Shown, 'document' | 'values'> & { partId: string }): Promise<readonly WorkingStep[]>;
}

/** Sheets of one page of a print; a class is asked for in several. */
export const sheetsAtOnce = 25;

/**
 * What an exercise looks like on paper: one sheet with one set of numbers for all, or sheets of the students from the
 * given one on, each with their own numbers; with the expected answers for the key.
 * @throws Refusal `notPublished`.
 */
export async function paperOf(
  database: Database,
  threads: Drawing & Showing,
  exerciseId: string,
  asked: { each: boolean; from: number; working: boolean; personId: string },
): Promise<Paper> {
  const version = await newestVersion(database, exerciseId);
  const { courseId, course, dueAt } = await factsOf(database, exerciseId);
  const { people } = await courseWithPeople(database, courseId);
  const students = people.filter(({ role }) => role === 'student');
  const wanted = asked.each ? students.slice(asked.from, asked.from + sheetsAtOnce) : [undefined];
  const sheets: PaperSheet[] = [];
  for (const student of wanted) {
    const personId = student?.id ?? asked.personId;
    const values = await drawFor(database, threads, version, personId);
    const drawn = { versionId: version.id, personId, document: version.document, values };
    const { statement, parameters, diagrams, parts } = await threads.seen('view', drawn);
    sheets.push({
      ...{ statement, parameters, diagrams, parts },
      person: student
        ? { id: student.id, name: student.name, studentNumber: student.studentNumber, group: student.group }
        : null,
      solutions: await threads.seen('solutions', drawn),
      workings: asked.working ? await workingsOf(drawn) : [],
    });
  }
  const { title, series, pictures } = version.document;
  return {
    ...{ exerciseId, version: version.number, course, title, series, pictures, sheets },
    dueAt: dueAt?.toISOString() ?? null,
    students: students.length,
  };

  async function workingsOf({ document, values }: Shown): Promise<PaperSheet['workings']> {
    const all: PaperSheet['workings'] = [];
    for (const { id } of document.parts) {
      all.push({ partId: id, steps: [...(await threads.working({ document, partId: id, values }))] });
    }
    return all;
  }
}
