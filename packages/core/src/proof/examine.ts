import { modelOf } from '../checking/model.js';
import { mentions } from '../diagram/exact.js';
import type { DrawValues, ExerciseDocument } from '../exercise/document.js';
import { extremesOf, refuseRareDraws } from '../exercise/draw.js';
import type { Parameter } from '../exercise/given.js';
import type { Part } from '../exercise/parts.js';
import { hiddenIn, meetsGuards, scopeOf } from '../exercise/scope.js';
import { leftInBraces } from '../exercise/words.js';
import { orProblem, Problem } from '../expression/problem.js';
import { readCondition } from '../formula/condition.js';
import { formulasOf, idsIn, ownFindings, ownWordsOf } from '../kinds/index.js';
import { hintWordsOf, wordsOf } from '../kinds/studentView.js';
import { sampleOf } from './sample.js';
import { trialsOf } from './trials.js';

/** Something that keeps an exercise from being published. `path` leads to the field, as in `parts/0/plant`. */
export interface Finding {
  readonly path: string;
  readonly message: string;
  /** Position in a typed expression. */
  readonly at?: number;
}

/**
 * Everything that would make a part unanswerable or its check fail, for both ends of every draw and twenty students.
 * The document must already fit its schema. An empty list means that it can be published.
 */
export function examine(document: ExerciseDocument): Finding[] {
  const findings = [
    ...missingWords(document),
    ...duplicates(document),
    ...drawFindings(document),
    ...partFindings(document),
  ];
  if (findings.length > 0) return findings;
  const given = givenFindings(document);
  if (given.length > 0) return given;
  const draws = sampleOf(document);
  return [
    ...wordFindings(document),
    ...hintFindings(document),
    ...hiddenFindings(document),
    ...document.parts.flatMap((part, k) => partFinding(document, part, `parts/${k}`, draws) ?? []),
  ];
}

function missingWords(document: ExerciseDocument): Finding[] {
  const findings: Finding[] = [];
  if (!document.title.trim()) findings.push({ path: 'title', message: 'The exercise needs a title.' });
  document.parts.forEach((part, k) => {
    if (!part.title.trim()) findings.push({ path: `parts/${k}/title`, message: 'The part needs a title.' });
    if ('output' in part && !part.output.trim()) {
      findings.push({ path: `parts/${k}/output`, message: 'The output needs a name.' });
    }
  });
  return findings;
}

function duplicates(document: ExerciseDocument): Finding[] {
  const findings: Finding[] = [];
  const names = new Set<string>();
  const take = (name: string, path: string): void => {
    if (name === 's') findings.push({ path, message: 's is the variable; take another name.' });
    if (names.has(name)) findings.push({ path, message: `${name} is there twice.` });
    names.add(name);
  };
  document.parameters.forEach(({ symbol }, k) => take(symbol, `parameters/${k}/symbol`));
  document.systems.forEach(({ name }, k) => take(name, `systems/${k}/name`));
  const isTwice = (ids: readonly string[]): boolean => new Set(ids).size < ids.length;
  if (isTwice(document.series.map(({ id }) => id))) {
    findings.push({ path: 'series', message: 'Two tables have the same name.' });
  }
  document.parts.forEach((part, k) => {
    const before = document.parts.slice(0, k).some(({ id }) => id === part.id);
    if (before || isTwice(idsIn(part))) {
      findings.push({ path: `parts/${k}/id`, message: `Part ${part.id} or one of its entries is there twice.` });
    }
  });
  return findings;
}

function drawFindings(document: ExerciseDocument): Finding[] {
  return document.parameters.flatMap((parameter: Parameter, k) =>
    findingsIn(`parameters/${k}/draw`, () => extremesOf(parameter), `${parameter.symbol}: `),
  );
}

/** What is wrong with parts whatever the numbers are, such as a limit below zero of what never is. */
const partFindings = ({ parts }: ExerciseDocument): Finding[] =>
  parts.flatMap((part, k) => ownFindings(part).map(({ field, message }) => ({ path: `parts/${k}/${field}`, message })));

/** Systems that cannot be worked out, guards that cannot be read or met. */
function givenFindings(document: ExerciseDocument): Finding[] {
  const unguarded = { ...document, guards: [] };
  const some = sampleOf(unguarded, 12);
  // With guards, values that cannot be worked out are never drawn: it takes one that can.
  const worksOnce = (work: (values: DrawValues) => unknown): void => {
    const problems = (document.guards.length > 0 ? some : some.slice(0, 1)).map((values) =>
      problemOf(() => work(values)),
    );
    const met = problems.filter((problem) => problem !== undefined);
    const first = met.find(isTypo) ?? met[0];
    if (first && met.length === problems.length) throw first;
  };
  const systems = document.systems.flatMap((_, k) => {
    const upTo = document.systems.slice(0, k + 1);
    return findingsIn(`systems/${k}`, () => worksOnce((values) => scopeOf({ systems: upTo }, values)));
  });
  if (systems.length > 0) return [systems[0]!];
  const guards = document.guards.flatMap((guard, k) =>
    findingsIn(`guards/${k}`, () => {
      readCondition(guard);
      worksOnce((values) => meetsGuards({ ...document, guards: [guard] }, values));
    }),
  );
  if (guards.length > 0) return guards;
  return findingsIn('guards', () => refuseRareDraws(document));
}

/** Double braces in the words that stand for nothing, so that students would read them as they are. */
function wordFindings(document: ExerciseDocument): Finding[] {
  const [values] = sampleOf(document, 1);
  const scope = scopeOf(document, values!);
  const texts = [
    { path: 'statement', text: document.statement },
    ...document.parts.flatMap((part, k) => [
      { path: `parts/${k}/prompt`, text: part.prompt },
      ...ownWordsOf(part).map(({ field, text }) => ({ path: `parts/${k}/${field}`, text })),
      ...(part.hints ?? []).map(({ text }, h) => ({ path: `parts/${k}/hints/${h}`, text })),
    ]),
  ];
  return texts.flatMap(({ path, text }) =>
    leftInBraces(text, values!, scope).map((inner) => ({
      path,
      message: `{{${inner}}} stands for nothing: it is no parameter, system or formula of this exercise.`,
    })),
  );
}

/** Hints that say nothing. */
const hintFindings = ({ parts }: ExerciseDocument): Finding[] =>
  parts.flatMap(({ hints = [] }, k) =>
    hints.flatMap(({ text }, h) =>
      text.trim() ? [] : [{ path: `parts/${k}/hints/${h}`, message: 'This hint is empty: write it, or remove it.' }],
    ),
  );

/** Places that would tell students a value that is hidden from them. */
function hiddenFindings({ parameters, statement, parts }: ExerciseDocument): Finding[] {
  const hidden = [...hiddenIn(parameters)];
  const told = (path: string, text: string): Finding[] =>
    hidden
      .filter((symbol) => new RegExp(`\\{\\{\\s*${symbol}\\s*\\}\\}`).test(text))
      .map((symbol) => ({ path, message: `{{${symbol}}} shows ${symbol}, which is hidden from students.` }));
  const used = (path: string, formula: string): Finding[] =>
    hidden
      .filter((symbol) => mentions(formula, symbol))
      .map((symbol) => ({ path, message: `Students set this model themselves, and ${symbol} is hidden from them.` }));
  return [
    ...told('statement', statement),
    ...parts.flatMap((part, k) => [
      ...wordsOf({ statement: '', parts: [part] }).flatMap((text) => told(`parts/${k}/prompt`, text)),
      ...hintWordsOf({ parts: [part] }).flatMap((text, h) => told(`parts/${k}/hints/${h}`, text)),
      ...formulasOf(part).flatMap(({ field, text }) => used(`parts/${k}/${field}`, text)),
    ]),
  ];
}

function findingsIn(path: string, work: () => unknown, before = ''): Finding[] {
  const problem = problemOf(work);
  return problem ? [findingOf(path, problem, before)] : [];
}

function problemOf(work: () => unknown): Problem | undefined {
  const outcome = orProblem(work);
  return outcome instanceof Problem ? outcome : undefined;
}

function findingOf(path: string, { message, at }: Problem, before = ''): Finding {
  return { path, message: `${before}${message}`, ...(at > 0 ? { at } : {}) };
}

/** Mistakes that no other numbers would mend. */
const typos = new Set(['unknownName', 'empty', 'unexpectedCharacter', 'unclosedBracket', 'missingOperand', 'exponent']);
const isTypo = ({ code }: Problem): boolean => typos.has(code);

/** The first trial of a part that fails with one of the draws. */
function partFinding(
  document: ExerciseDocument,
  part: Part,
  path: string,
  draws: readonly DrawValues[],
): Finding | undefined {
  for (const values of draws) {
    const given = orProblem(() => modelOf(document, values));
    if (given instanceof Problem) return findingOf('systems', given);
    const model = given;
    for (const { field, run } of trialsOf(part, model)) {
      const problem = problemOf(run);
      if (!problem) continue;
      const finding = findingOf(`${path}/${field}`, problem);
      const numbers = Object.entries(values).map(([symbol, value]) => `${symbol} = ${value}`);
      const where = numbers.length > 0 && !isTypo(problem) ? ` (with ${numbers.join(', ')})` : '';
      return { ...finding, message: `${finding.message}${where}` };
    }
  }
  return undefined;
}
