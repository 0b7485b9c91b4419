/**
 * Every reason for which typed text or an exercise is refused, and what it means. The code is stable, for programs; the
 * message of a {@link Problem} is for people, and says what stands where and what to type instead.
 */
export const problemCodes = {
  empty: 'Nothing is typed where something must stand.',
  tooLong: 'The text, a list or a table has more than the allowed number of characters, entries or rows.',
  unexpectedCharacter: 'A character that has no meaning at its place.',
  decimalComma: 'A comma that could be a decimal comma or part a list.',
  tooManyDigits: 'A number with more digits than are worked with.',
  unclosedBracket: 'A bracket is opened and never closed.',
  unopenedBracket: 'A bracket is closed that was never opened.',
  emptyBracket: 'A pair of brackets with nothing between.',
  missingOperand: 'An operation lacks what it works on.',
  missingOperator: 'Two things stand side by side with no operation between.',
  tooDeep: 'Brackets within brackets beyond the allowed depth.',
  unknownName: 'A letter or name that stands for nothing here.',
  exponent: 'A power that is no whole number, or too large.',
  divisionByZero: 'Something is divided by zero.',
  degree: 'A polynomial of a degree beyond the allowed one.',
  numberSize: 'Numbers too large or too small to be worked with.',
  work: 'The calculation would take too long.',
  improper: 'A system that could not be built: the numerator of higher degree, or a loop without a value.',
  notANumber: 'A number is wanted and something else stands there.',
  deadTime: 'Dead time where it is not allowed, or in a form that is not understood.',
  equation: 'An equation that is not written as one, or that has no one solution.',
  signal: 'A signal that is missing, given twice or used where it must not be.',
  query: 'A question to a system that has no answer.',
  matrix: 'A matrix of the wrong shape or with entries that are not understood.',
  notPossible: 'A step that the system does not allow.',
  draw: 'Numbers for a student that cannot be drawn.',
  exercise: 'An exercise that contradicts itself or cannot be solved.',
} as const;
export type ProblemCode = keyof typeof problemCodes;

/** Refusal of something typed. `at` is the zero-based position in the text where the trouble starts. */
export class Problem extends Error {
  constructor(
    readonly code: ProblemCode,
    message: string,
    readonly at = 0,
  ) {
    super(message);
    this.name = 'Problem';
  }
}

/** What some work gives, or the Problem that it meets; other errors go on. */
export function orProblem<Of>(work: () => Of): Of | Problem {
  try {
    return work();
  } catch (error) {
    if (error instanceof Problem) return error;
    throw error;
  }
}

/** What some work gives, or something else where it meets a Problem; other errors go on. */
export function orElse<Of, Other>(otherwise: Other, work: () => Of): Of | Other {
  const value = orProblem(work);
  return value instanceof Problem ? otherwise : value;
}
