import { open, readFile } from 'node:fs/promises';
import {
  type DrawValues,
  ExerciseDocument,
  modelOf,
  type Part,
  Problem,
  rationalFromDecimal,
  type Verdict,
} from '@nailset/core';
import { answerFromText, checkAnswer, drawValues, examine, upgraded } from '@nailset/core/checks';
import { Ajv } from 'ajv';
import { parse } from 'csv-parse';
import { partNamed } from '../partNamed.js';

/** Something about a file that a person can mend. */
export class FileProblem extends Error {}

/** What came of one row: a verdict, or why there is none. */
export interface CheckedRow {
  /** Counted from 1, the heading not included. */
  readonly row: number;
  readonly student: string;
  readonly part: string;
  readonly answer: string;
  readonly values: DrawValues;
  readonly verdict?: Verdict;
  readonly problem?: string;
}

/** The exercise in a file, fit for checking. @throws FileProblem saying where it does not fit. */
export async function readExercise(file: string): Promise<ExerciseDocument> {
  let document: unknown;
  try {
    document = upgraded(JSON.parse(await readFile(file, 'utf8')));
  } catch (error) {
    throw new FileProblem(`${file} cannot be read: ${error instanceof Error ? error.message : String(error)}`);
  }
  const validate = new Ajv({ allErrors: false, code: { optimize: false } }).compile<ExerciseDocument>(ExerciseDocument);
  if (!validate(document)) {
    const [first] = validate.errors ?? [];
    throw new FileProblem(`${file} is no exercise: ${first?.instancePath || 'the document'} ${first?.message ?? ''}.`);
  }
  const [finding] = examine(document);
  if (finding) throw new FileProblem(`${file}, ${finding.path}: ${finding.message}`);
  return document;
}

/**
 * Checks a table of answers row by row. Columns: student, part (its id, title or letter), answer; a column named like a
 * parameter gives a student's number, otherwise it is drawn by the student's name.
 * @throws FileProblem when the file is no such table.
 */
export async function* checkRows(exercise: ExerciseDocument, file: string): AsyncGenerator<CheckedRow> {
  const opened = await open(file).catch((error: Error) => {
    throw new FileProblem(`${file} cannot be read: ${error.message}`);
  });
  const rows = opened.createReadStream().pipe(
    parse({
      columns: (names: string[]) => headings(names, file),
      bom: true,
      trim: true,
      skip_empty_lines: true,
      relax_column_count: true,
    }),
  );
  let row = 0;
  try {
    for await (const cells of rows as AsyncIterable<Record<string, string | undefined>>) {
      row += 1;
      yield checkRow(exercise, row, cells);
    }
  } catch (error) {
    if (error instanceof FileProblem) throw error;
    throw new FileProblem(`${file}, after row ${row}: ${error instanceof Error ? error.message : String(error)}`);
  }
}

function headings(names: string[], file: string): string[] {
  const lower = names.map((name) => (/^(student|part|answer)$/i.test(name) ? name.toLowerCase() : name));
  for (const wanted of ['student', 'part', 'answer']) {
    if (!lower.includes(wanted)) {
      throw new FileProblem(`${file} has no column “${wanted}”; its columns are ${names.join(', ') || 'none'}.`);
    }
  }
  return lower;
}

function checkRow(
  exercise: ExerciseDocument,
  row: number,
  cells: Readonly<Record<string, string | undefined>>,
): CheckedRow {
  const { student = '', part: name = '', answer = '' } = cells;
  const values = drawValues(exercise, student);
  const checked = { row, student, part: name, answer, values };
  try {
    for (const { symbol } of exercise.parameters) {
      const cell = cells[symbol];
      if (cell === undefined || cell === '') continue;
      rationalFromDecimal(cell);
      values[symbol] = cell;
    }
    if (!student) throw new Problem('exercise', 'The student is missing.');
    const part = askedPart(exercise.parts, name);
    return {
      ...checked,
      part: part.id,
      verdict: checkAnswer(part, modelOf(exercise, values), answerFromText(part, answer)),
    };
  } catch (error) {
    if (error instanceof Problem) return { ...checked, problem: error.message };
    if (error instanceof SyntaxError || error instanceof RangeError) return { ...checked, problem: error.message };
    throw error;
  }
}

function askedPart(parts: readonly Part[], name: string): Part {
  const part = partNamed(parts, name);
  if (!part)
    throw new Problem('exercise', `There is no part “${name}”; parts: ${parts.map(({ id }) => id).join(', ')}.`);
  return part;
}
