import {
  BenchSheetRow,
  Id,
  KeptSheet,
  orProblem,
  Problem,
  type Sheet,
  sheetFrom,
  SheetSave,
  SheetSaved,
  SheetShare,
} from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import { Refusal, refusalOf } from '../errors.js';
import { roleIn } from '../store/people.js';
import { keepSheet, removeSheet, shareSheet, sheetFor, sheetsFor } from '../store/sheets.js';
import { answers, type App, type House, nothing } from './route.js';

const bySheet = Type.Object({ sheetId: Id });

/** Sheets of the open bench: each person’s own, and those that instructors share with a course. */
export function sheetRoutes(app: App, { database }: House): void {
  app.get(
    '/api/sheets',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'My bench sheets, and those of my courses', response: answers(Type.Array(BenchSheetRow)) },
    },
    async (request) => sheetsFor(database, personOf(request).id),
  );

  app.get(
    '/api/sheets/:sheetId',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'A bench sheet', params: bySheet, response: answers(KeptSheet) },
    },
    async (request) => sheetFor(database, personOf(request).id, request.params.sheetId),
  );

  app.put(
    '/api/sheets/:sheetId',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'Keep a bench sheet', params: bySheet, body: SheetSave, response: answers(SheetSaved) },
    },
    async (request) => {
      const { revision, sheet } = request.body;
      const kept = await keepSheet(database, personOf(request).id, request.params.sheetId, {
        revision,
        sheet: readable(sheet),
      });
      return { revision: kept.revision, savedAt: kept.savedAt.toISOString() };
    },
  );

  app.put(
    '/api/sheets/:sheetId/course',
    {
      config: { access: 'signedIn' },
      schema: {
        summary: 'Share a bench sheet with a course',
        params: bySheet,
        body: SheetShare,
        response: answers(nothing),
      },
    },
    async (request) => {
      const { courseId } = request.body;
      const { id } = personOf(request);
      if (courseId !== null) {
        const role = await roleIn(database, courseId, id);
        if (!role) throw new Refusal('notFound');
        if (role !== 'instructor') throw new Refusal('forbidden');
      }
      await shareSheet(database, id, request.params.sheetId, courseId);
      return {};
    },
  );

  app.delete(
    '/api/sheets/:sheetId',
    {
      config: { access: 'signedIn' },
      schema: { summary: 'Remove a bench sheet', params: bySheet, response: answers(nothing) },
    },
    async (request) => {
      await removeSheet(database, personOf(request).id, request.params.sheetId);
      return {};
    },
  );
}

function readable(given: object): Sheet {
  const sheet = orProblem(() => sheetFrom(given));
  if (sheet instanceof Problem) throw refusalOf(sheet);
  return sheet;
}
