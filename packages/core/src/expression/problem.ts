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
