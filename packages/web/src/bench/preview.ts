import type { Bench, DrawValues, ExerciseDocument } from '@nailset/core';
import { studentExercise } from '@nailset/core/checks';

/** The id of whoever is not a person of the course. */
export const nobody = '00000000-0000-0000-0000-000000000000';

/** The bench of a draft with some numbers, on which nothing is kept. */
export function previewOf(document: ExerciseDocument, values: DrawValues): Bench {
  return {
    ...studentExercise(document, values),
    exerciseId: nobody,
    versionId: nobody,
    version: 1,
    courseId: nobody,
    course: '',
    dueAt: null,
    extended: null,
    mayHandIn: false,
    closesAt: null,
    saved: [],
    handedIn: [],
    solutions: [],
    revealed: [],
    measured: [],
    hints: [],
    working: false,
    practice: [],
  };
}
