import { Problem } from '../expression/problem.js';
import type { DrawValues, ExerciseDocument, Part } from '../exercise/document.js';
import { bindingsOf, drawValues, extremesOf } from '../exercise/draw.js';
import { fractionOf, isProper } from '../rational/fraction.js';
import { gainsOfForm } from '../system/controller.js';
import { readAnswer, solutionOf } from './answers/index.js';

/** Something that keeps an exercise from being published. `path` leads to the field, as in `parts/0/plant`. */
export interface Finding {
  readonly path: string;
  readonly message: string;
  /** Position in a typed expression. */
  readonly at?: number;
}

const sampleDraws = 20;

/**
 * Everything that would make a part unanswerable or its check fail, for both ends of every draw and twenty students.
 * The document must already fit its schema. An empty list means that it can be published.
 */
export function examine(document: ExerciseDocument): Finding[] {
  const findings = [...missingWords(document), ...duplicates(document), ...drawFindings(document)];
  if (findings.length > 0) return findings;
  document.parts.forEach((part, k) => {
    const finding = partFinding(part, `parts/${k}`, sampleOf(document));
    if (finding) findings.push(finding);
  });
  return findings;
}

/** Both ends of every draw together, then the numbers of imagined students. */
export function sampleOf(document: ExerciseDocument, count = sampleDraws): DrawValues[] {
  const ends = document.parameters.map((p) => [p.symbol, extremesOf(p)] as const);
  const corner = (pick: (values: string[]) => string): DrawValues =>
    Object.fromEntries(ends.map(([symbol, values]) => [symbol, pick(values)]));
  return [
    corner((values) => values[0]!),
    corner((values) => values[values.length - 1]!),
    ...Array.from({ length: count }, (_, k) => drawValues(document, `sample ${k}`)),
  ];
}

function missingWords(document: ExerciseDocument): Finding[] {
  const findings: Finding[] = [];
  if (!document.title.trim()) findings.push({ path: 'title', message: 'The exercise needs a title.' });
  document.parts.forEach((part, k) => {
    if (!part.title.trim()) findings.push({ path: `parts/${k}/title`, message: 'The part needs a title.' });
    if (part.kind === 'gains' && !part.output.trim()) {
      findings.push({ path: `parts/${k}/output`, message: 'The output needs a name.' });
    }
  });
  return findings;
}

function duplicates(document: ExerciseDocument): Finding[] {
  const findings: Finding[] = [];
  const symbols = new Set<string>();
  document.parameters.forEach(({ symbol }, k) => {
    if (symbol === 's')
      findings.push({ path: `parameters/${k}/symbol`, message: 's is the variable; take another symbol.' });
    if (symbols.has(symbol)) findings.push({ path: `parameters/${k}/symbol`, message: `${symbol} is there twice.` });
    symbols.add(symbol);
  });
  const ids = new Set<string>();
  document.parts.forEach((part, k) => {
    const own = part.kind === 'gains' ? part.nails.map((nail) => nail.id) : [];
    if (ids.has(part.id) || new Set(own).size < own.length) {
      findings.push({ path: `parts/${k}/id`, message: `Part ${part.id} or one of its nails is there twice.` });
    }
    ids.add(part.id);
  });
  return findings;
}

function drawFindings(document: ExerciseDocument): Finding[] {
  return document.parameters.flatMap((parameter, k) => {
    try {
      extremesOf(parameter);
      return [];
    } catch (error) {
      return [{ path: `parameters/${k}/draw`, message: `${parameter.symbol}: ${messageOf(error)}` }];
    }
  });
}

function partFinding(part: Part, path: string, draws: readonly DrawValues[]): Finding | undefined {
  const field = { transferFunction: 'expected', number: 'system', gains: 'plant' }[part.kind];
  for (const values of draws) {
    try {
      tryPart(part, values);
    } catch (error) {
      const at = error instanceof Problem && error.at > 0 ? { at: error.at } : {};
      const numbers = Object.entries(values).map(([symbol, value]) => `${symbol} = ${value}`);
      const where = numbers.length > 0 && !isTypo(error) ? ` (with ${numbers.join(', ')})` : '';
      return { path: `${path}/${field}`, message: `${messageOf(error)}${where}`, ...at };
    }
  }
  return undefined;
}

/** Runs what a student's answer would run. */
function tryPart(part: Part, values: DrawValues): void {
  if (part.kind !== 'gains') {
    const expression = part.kind === 'number' ? part.system : part.expected;
    if (!isProper(fractionOf(expression, bindingsOf(values)))) {
      throw new Problem('improper', 'This system has more zeros than poles.');
    }
    solutionOf(part, values);
    return;
  }
  for (const gain of gainsOfForm[part.form]) {
    if (part.start[gain] === undefined || part.rungs[gain] === undefined) {
      throw new Problem('exercise', `${gain} needs a start and rungs.`);
    }
  }
  const gains = { Kp: String(part.start.Kp), Ki: String(part.start.Ki ?? 0), Kd: String(part.start.Kd ?? 0) };
  readAnswer(part, values, { kind: 'gains', gains });
}

const typos = new Set(['unknownName', 'empty', 'unexpectedCharacter', 'unclosedBracket', 'missingOperand', 'exponent']);
const isTypo = (error: unknown): boolean => error instanceof Problem && typos.has(error.code);

function messageOf(error: unknown): string {
  if (error instanceof Problem) return error.message;
  throw error;
}
