import type { Answer, Trail } from '@nailset/core';
import { isStoredAnswer } from '../kinds/students';
import type { Work } from '../loop/action';
import { areNamedTexts, isObject, isText } from '../shared/stored';

/** Whether this is an answer of one of the kinds that there are now. */
export const isAnswer = (value: unknown): value is Answer => isObject(value) && isStoredAnswer(value);

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
