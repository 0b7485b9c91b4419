import type { DrawValues, ExerciseDocument, Part } from './document.js';
import { pointsOf } from './points.js';
import type { StudentPart } from './studentPart.js';

/** The part without what is expected of the answer, the student's values put into its words. */
export function studentPart(part: Part, values: DrawValues): StudentPart {
  const { id, title } = part;
  const common = { id, title, prompt: insertValues(part.prompt, values), points: pointsOf(part) };
  switch (part.kind) {
    case 'transferFunction':
      return { ...common, kind: part.kind, tolerancePercent: part.tolerancePercent };
    case 'number':
      return { ...common, kind: part.kind, quantity: part.quantity, tolerancePercent: part.tolerancePercent };
    case 'gains':
      return { ...part, ...common };
  }
}

/** Replaces `{{symbol}}` by the student's value; other braces stay. */
export function insertValues(text: string, values: DrawValues): string {
  return text.replace(/\{\{\s*([^\s{}]+)\s*\}\}/g, (whole, symbol: string) =>
    Object.hasOwn(values, symbol) ? values[symbol]! : whole,
  );
}

/** What a student sees of a whole exercise. */
export function studentExercise(document: ExerciseDocument, values: DrawValues) {
  return {
    title: document.title,
    statement: insertValues(document.statement, values),
    attempts: document.attempts,
    parameters: document.parameters.map(({ symbol, meaning, unit }) => ({
      symbol,
      meaning,
      unit,
      value: values[symbol] ?? '',
    })),
    parts: document.parts.map((part) => studentPart(part, values)),
  };
}
