import { EnteredAnswers, EnteredPlan, Paper } from '@nailset/core';
import Type from 'typebox';
import { personOf } from '../access.js';
import { enterAnswers } from '../store/entered.js';
import { factsOf } from '../store/exercises.js';
import { paperOf, sheetsAtOnce } from '../store/paper.js';
import { answers, type App, byExercise, type House } from './route.js';

/** An exercise on paper, and answers that come back from there. */
export function paperRoutes(app: App, { database, threads }: House): void {
  app.get(
    '/api/exercises/:exerciseId/paper',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Sheets to print, with what is expected',
        description: `One for all, with the numbers of who asks, or each student’s own, ${sheetsAtOnce} at a time from the given one on.`,
        params: byExercise,
        querystring: Type.Object({
          each: Type.Optional(Type.Enum(['0', '1'])),
          working: Type.Optional(Type.Enum(['0', '1'])),
          from: Type.Optional(Type.String({ pattern: '^\\d{1,5}$' })),
        }),
        response: answers(Paper),
      },
    },
    async (request) => {
      const { each = '0', from = '0', working = '0' } = request.query;
      const personId = personOf(request).id;
      return paperOf(database, threads, request.params.exerciseId, {
        ...{ personId, each: each === '1', working: working === '1', from: Number(from) },
      });
    },
  );

  app.post(
    '/api/exercises/:exerciseId/entered',
    {
      config: { access: 'staff' },
      schema: {
        summary: 'Hand in answers from elsewhere for students',
        description: 'Without `apply` it only says what would be handed in. The same table again changes nothing.',
        params: byExercise,
        body: EnteredAnswers,
        response: answers(EnteredPlan),
      },
    },
    async (request) => {
      const { exerciseId } = request.params;
      const { courseId } = await factsOf(database, exerciseId);
      const byPersonId = personOf(request).id;
      return enterAnswers(database, threads, { exerciseId, courseId, byPersonId }, request.body);
    },
  );
}
