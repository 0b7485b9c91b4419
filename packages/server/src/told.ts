import type { ExerciseDocument } from '@nailset/core';
import { Disclosure } from '@nailset/core/checks';
import { type OwnDates, underDates } from './store/dates.js';

/** What is told by now under someone’s own dates. */
export const disclosureOf = (document: ExerciseDocument, dates: OwnDates): Disclosure =>
  new Disclosure(underDates(document, dates), dates.dueAt === null ? null : new Date(dates.dueAt), new Date());
