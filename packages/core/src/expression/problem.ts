/** Every reason for which typed text or an exercise is refused. The code is stable; the message is for people. */
export type ProblemCode =
  | 'empty'
  | 'tooLong'
  | 'unexpectedCharacter'
  | 'decimalComma'
  | 'tooManyDigits'
  | 'unclosedBracket'
  | 'unopenedBracket'
  | 'emptyBracket'
  | 'missingOperand'
  | 'missingOperator'
  | 'tooDeep'
  | 'unknownName'
  | 'exponent'
  | 'divisionByZero'
  | 'degree'
  | 'numberSize'
  | 'work'
  | 'improper'
  | 'notANumber'
  | 'deadTime'
  | 'equation'
  | 'signal'
  | 'query'
  | 'matrix'
  | 'notPossible'
  | 'draw'
  | 'exercise';

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
export function attempt<Of>(work: () => Of): Of | Problem {
  try {
    return work();
  } catch (error) {
    if (error instanceof Problem) return error;
    throw error;
  }
}

/** What some work gives, or something else where it meets a Problem; other errors go on. */
export function orElse<Of, Other>(otherwise: Other, work: () => Of): Of | Other {
  const found = attempt(work);
  return found instanceof Problem ? otherwise : found;
}
