import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { checkAnswer, checkerVersion, rightAnswerOf, sampleOf, wrongAnswersOf } from '../src/checks';
import { modelOf, orProblem, Problem } from '../src/index';
import { demoExercises } from './demo';

/** Settings of parts that many answers solve: two that are wrong differently, and some that are near. */
const settings = [
  { Kp: '2', Ki: '1', Kd: '0.5', K: '3', T: '1' },
  { Kp: '40', Ki: '0', Kd: '4', K: '1.5', T: '0.6' },
];

/** What is told of right and of usual wrong answers to every part of the demo: points, nails that hold, slip, words. */
function told(): string[] {
  return demoExercises.flatMap((document) =>
    sampleOf(document, 2).flatMap((values) => {
      const model = modelOf(document, values);
      return document.parts.flatMap((part) => {
        const right = rightAnswerOf(part, model);
        const open = settings.flatMap((each) => {
          const names = part.kind === 'gains' ? part.controller.gains.map(({ name }) => name) : [];
          const gains = Object.fromEntries(Object.entries(each).filter(([name]) => names.some((own) => own === name)));
          return part.kind === 'gains' ? [{ kind: part.kind, gains }] : [];
        });
        const answers = [
          ...(right ? [right] : []),
          ...open,
          ...wrongAnswersOf(part, model, undefined).map(({ answer }) => answer),
        ];
        return answers.slice(0, 8).map((answer) => {
          const found = orProblem(() => checkAnswer(part, model, answer));
          if (found instanceof Problem) return `${document.title} ${part.id}: ${found.code}`;
          const nails = found.items.map(({ met }) => (met ? '+' : '-')).join('');
          return `${document.title} ${part.id}: ${found.points} ${nails} ${found.slip?.id ?? ''} ${found.words}`;
        });
      });
    }),
  );
}

const file = path.join(__dirname, 'fixtures/verdicts.json');

/**
 * Verdicts are kept with the version of the checker that made them. Where this fails, verdicts come out differently than
 * they did under that version: if that is meant, raise `checkerVersion` and write them anew with RECORD_VERDICTS=1.
 */
test('verdicts come out as they did under this version of the checker', () => {
  const lines = told();
  expect(lines.length).toBeGreaterThan(300);
  const now = {
    version: checkerVersion,
    answers: lines.length,
    digest: createHash('sha256').update(lines.join('\n')).digest('hex'),
  };
  if (process.env['RECORD_VERDICTS']) writeFileSync(file, `${JSON.stringify(now, null, 2)}\n`);
  expect(now).toEqual(JSON.parse(readFileSync(file, 'utf8')));
});
