import { ApplyCorrection, Correction, CorrectionPreview, Created, Id, NewCorrection } from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import {
  applyCorrection,
  beginCorrection,
  cancelCorrection,
  correctionPreview,
  correctionsOf,
} from '../store/corrections.js';
import { factsOf } from '../store/exercises.js';
import { answers, type App, byExercise, type House, nothing } from './route.js';

/** After an exercise was corrected: its answers checked again, looked at, and then counted. */
export function correctionRoutes(app: App, { database }: House): void {
  const byCorrection = Type.Object({ ...byExercise.properties, correctionId: Id });

  app.get(
    '/api/exercises/:exerciseId/corrections',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'What was checked again, newest first',
        params: byExercise,
        response: answers(Type.Array(Correction)),
      },
    },
    async (request) => correctionsOf(database, request.params.exerciseId),
  );

  app.post(
    '/api/exercises/:exerciseId/corrections',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Check answers again against a version, without changing any mark yet',
        params: byExercise,
        body: NewCorrection,
        response: answers(Created),
      },
    },
    async (request) => ({
      id: await beginCorrection(database, request.params.exerciseId, personOf(request).id, request.body),
    }),
  );

  app.get(
    '/api/exercises/:exerciseId/corrections/:correctionId',
    {
      config: { access: 'staff', limit: false },
      schema: {
        summary: 'What checking again found, answer by answer',
        params: byCorrection,
        response: answers(CorrectionPreview),
      },
    },
    async (request) => correctionPreview(database, request.params.exerciseId, request.params.correctionId),
  );

  app.post(
    '/api/exercises/:exerciseId/corrections/:correctionId/application',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Let the new verdicts count, the better or the newer of two, with one reason',
        params: byCorrection,
        body: ApplyCorrection,
        response: answers(Type.Object({ changed: Type.Integer() })),
      },
    },
    async (request) => {
      const { exerciseId, correctionId } = request.params;
      const { courseId } = await factsOf(database, exerciseId);
      const byPersonId = personOf(request).id;
      return applyCorrection(database, { exerciseId, courseId, byPersonId }, correctionId, request.body);
    },
  );

  app.delete(
    '/api/exercises/:exerciseId/corrections/:correctionId',
    {
      config: { access: 'instructor' },
      schema: {
        summary: 'Stop checking again, or drop what it found',
        params: byCorrection,
        response: answers(nothing),
      },
    },
    async (request) => {
      await cancelCorrection(database, request.params.exerciseId, request.params.correctionId);
      return {};
    },
  );
}
