import { type BlockDiagram, readBlocks } from '../diagram/blocks.js';
import { mentions } from '../diagram/exact.js';
import { blocksOf } from '../exercise/blocks.js';
import type { DrawValues, ExerciseDocument } from '../exercise/document.js';
import { figureCurves, figureMeasures, inputLine } from '../exercise/figure.js';
import type { Picture, Series } from '../exercise/given.js';
import type { Part, StudentPart } from '../exercise/parts.js';
import { hiddenIn, scopeOf } from '../exercise/scope.js';
import type { FigureMeasures, Samples, ShownDiagram, StudentFigure } from '../exercise/seen.js';
import { textOf } from '../exercise/systems.js';
import { insertValues } from '../exercise/words.js';
import { orElse } from '../expression/problem.js';
import type { Scope } from '../formula/evaluate.js';
import { attemptsOf, diagramsOf, inputsOf, ownWordsOf, pointsOf, seenOf } from './index.js';
import type { Given } from './kind.js';

/** The part without what is expected of the answer, the student's values put into its words. */
export function studentPart(document: Given, part: Part, values: DrawValues, scope: Scope): StudentPart {
  const { id, title, figure, hints } = part;
  const { series } = document;
  const common = {
    id,
    title,
    prompt: insertValues(part.prompt, values, scope),
    points: pointsOf(part),
    attempts: attemptsOf(document, part),
    ...(figure ? { figure: studentFigure(figure, scope, series) } : {}),
    ...(hints && hints.length > 0 ? { hints: hints.map(({ cost }) => cost) } : {}),
  };
  return { ...seenOf(part, document, values, scope), ...common } as StudentPart;
}

function studentFigure(figure: NonNullable<Part['figure']>, scope: Scope, series: readonly Series[]): StudentFigure {
  const now = { ...figure, curves: figure.curves.filter(({ afterwards }) => !afterwards) };
  return {
    horizon: figure.horizon,
    input: inputLine(figure.input, series, figure.horizon),
    curves: figureCurves(now, scope, series).map(({ label, times, values }) => ({ label, times, values })),
    afterwards: figure.curves.length - now.curves.length,
  };
}

/** The curves that a student sees once the part is answered. */
export function revealedCurves(document: Given, part: Part, values: DrawValues): Samples[] {
  if (!part.figure) return [];
  const later = { ...part.figure, curves: part.figure.curves.filter(({ afterwards }) => afterwards) };
  return figureCurves(later, scopeOf(document, values), document.series).map(({ label, times, values: shown }) => ({
    label,
    times,
    values: shown,
  }));
}

/** Measures of a part's curves, those beside the question first, then those that are revealed; they may be answers. */
export function curveMeasures(document: Given, { figure }: Part, values: DrawValues): FigureMeasures {
  if (!figure) return [];
  const curves = [...figure.curves].sort((a, b) => Number(a.afterwards) - Number(b.afterwards));
  return figureMeasures({ ...figure, curves }, scopeOf(document, values));
}

/** Systems in equations that the words show by `diagram:name`. */
function diagramsShown({ systems, statement, parts }: ExerciseDocument): ShownDiagram[] {
  const words = [...wordsOf({ statement, parts }), ...hintWordsOf({ parts })].join('\n');
  return systems.flatMap(({ name, form }) =>
    form.kind === 'equations' && words.includes(`diagram:${name})`)
      ? [{ name, equations: form.text, from: form.from, to: form.to }]
      : [],
  );
}

/** Every diagram that a student's page draws of itself, each with the signals that leave it. */
export function diagramsDrawn({
  diagrams,
  parts,
}: {
  readonly diagrams: readonly ShownDiagram[];
  readonly parts: readonly StudentPart[];
}): { readonly diagram: BlockDiagram; readonly outputs: readonly string[] }[] {
  const all = [...parts.flatMap(diagramsOf), ...diagrams.map(({ to, ...diagram }) => ({ ...diagram, outputs: [to] }))];
  return all.flatMap(({ equations, from, outputs }) => {
    const diagram = orElse(null, () => readBlocks(equations, [from]));
    return diagram ? [{ diagram, outputs }] : [];
  });
}

/** Tables that drive a system on a student's bench. The others are drawn here, and a curve kept back stays here. */
function seriesShown({ series, parts }: ExerciseDocument): Series[] {
  const inputs = parts.flatMap(inputsOf);
  return series.filter(({ id }) => inputs.some((input) => input?.kind === 'series' && input.series === id));
}

/** Pictures that the words show. */
function picturesShown(document: ExerciseDocument): Picture[] {
  const words = [...wordsOf(document), ...hintWordsOf(document)].join('\n');
  return document.pictures.filter(({ id }) => new RegExp(`picture:${id}(?![a-z0-9-])`).test(words));
}

/** Words that students read on request. */
export const hintWordsOf = ({ parts }: Pick<ExerciseDocument, 'parts'>): string[] =>
  parts.flatMap(({ hints = [] }) => hints.map(({ text }) => text));

/** All words that students read, but for hints. */
export const wordsOf = ({ statement, parts }: Pick<ExerciseDocument, 'statement' | 'parts'>): string[] => [
  statement,
  ...parts.flatMap((part) => [part.prompt, ...ownWordsOf(part).map(({ text }) => text)]),
];

/**
 * Blocks of the exercise's diagrams that students see with their values anyway, in the words or bound in a diagram that
 * is shown; they can be used in answers by name.
 */
function shownBlocks(document: ExerciseDocument, scope: Scope): { name: string; text: string }[] {
  const words = wordsOf(document).join('\n');
  const hidden = [...hiddenIn(document.parameters)];
  const bound = diagramsShown(document).map(({ equations }) => equations.split(/^where\b/m)[1] ?? '');
  const isShown = (name: string): boolean =>
    new RegExp(`\\{\\{\\s*${name}\\s*\\}\\}`).test(words) ||
    bound.some((text) => mentions(text, name) && !hidden.some((symbol) => mentions(text, symbol)));
  return [...blocksOf(document, scope)].flatMap(([name, value]) =>
    isShown(name) ? orElse([], () => [{ name, text: textOf(value) }]) : [],
  );
}

/** What a student sees of a whole exercise. */
export function studentExercise(document: ExerciseDocument, values: DrawValues) {
  const scope = scopeOf(document, values);
  return {
    title: document.title,
    statement: insertValues(document.statement, values, scope),
    attempts: document.attempts,
    shows: document.shows,
    late: document.late,
    layout: document.layout ?? 'together',
    series: seriesShown(document),
    diagrams: diagramsShown(document),
    pictures: picturesShown(document),
    parameters: document.parameters
      .filter(({ hidden }) => !hidden)
      .map(({ symbol, meaning, unit }) => ({ symbol, meaning, unit, value: values[symbol] ?? '' })),
    blocks: shownBlocks(document, scope),
    open: document.systems.flatMap(({ name, open }) => {
      const system = open ? scope.names.get(name) : undefined;
      return system ? orElse([], () => [{ name, text: textOf(system) }]) : [];
    }),
    parts: document.parts.map((part) => studentPart(document, part, values, scope)),
  };
}

/** What the first hints of a part say, with the student's values. */
export const hintsTold = (document: ExerciseDocument, part: Part, values: DrawValues, count: number): string[] =>
  (part.hints ?? []).slice(0, count).map(({ text }) => insertValues(text, values, scopeOf(document, values)));
