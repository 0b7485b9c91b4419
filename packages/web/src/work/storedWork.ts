import type { Answer, Trail } from '@nailset/core';
import type { Work } from '../loop/action';

/** What a browser has stored is checked before it is believed: it may come from another release, or from nobody. */

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isText = (value: unknown): value is string => typeof value === 'string';
const areTexts = (value: unknown): boolean => Array.isArray(value) && value.every(isText);
const areNamedTexts = (value: unknown): boolean => isObject(value) && Object.values(value).every(isText);

const isStep = (step: unknown): boolean =>
  isObject(step) &&
  isText(step['kind']) &&
  areTexts(step['of']) &&
  (step['gain'] === undefined || isText(step['gain']));

/** What each kind of answer holds beside its kind. */
const shapes: Record<Answer['kind'], (answer: Record<string, unknown>) => boolean> = {
  transferFunction: ({ text }) => isText(text),
  number: ({ text }) => isText(text),
  points: ({ text }) => isText(text),
  range: ({ text }) => isText(text),
  paths: ({ text }) => isText(text),
  gains: ({ gains }) => areNamedTexts(gains),
  curve: ({ knobs }) => areNamedTexts(knobs),
  bode: ({ terms }) => areNamedTexts(terms),
  choice: ({ chosen }) => areTexts(chosen),
  trend: ({ cells }) => areNamedTexts(cells),
  diagram: ({ texts }) => areNamedTexts(texts),
  reduction: ({ steps }) => Array.isArray(steps) && steps.every(isStep),
  states: ({ a, b, c, d }) => [a, b, c, d].every(isText),
};

/** Whether this is an answer of one of the kinds that there are now. */
export function isAnswer(value: unknown): value is Answer {
  if (!isObject(value) || !isText(value['kind']) || !Object.hasOwn(shapes, value['kind'])) return false;
  return shapes[value['kind'] as Answer['kind']](value);
}

const isTrail = (value: unknown): value is Trail =>
  Array.isArray(value) &&
  value.every(
    (stop) =>
      isObject(stop) &&
      areNamedTexts(stop['gains']) &&
      Number.isInteger(stop['holding']) &&
      (stop['name'] === undefined || isText(stop['name'])),
  );

/** Whether this is the work of a bench, part by part. */
export const isStoredWork = (value: unknown): value is Work =>
  isObject(value) &&
  isText(value['open']) &&
  isText(value['chosen']) &&
  Number.isInteger(value['changes']) &&
  isObject(value['answers']) &&
  Object.values(value['answers']).every(isAnswer) &&
  isObject(value['trails']) &&
  Object.values(value['trails']).every(isTrail);
