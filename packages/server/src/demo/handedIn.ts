import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  type Answer,
  type DrawValues,
  type ExerciseDocument,
  type Model,
  modelOf,
  must,
  type Trail,
  type Verdict,
} from '@nailset/core';
import { checkAnswer, drawValues } from '@nailset/core/checks';
import { seedOf } from '../store/exercises.js';
import { lampAnswer, trolleyAnswer, usualAnswer } from './answers.js';
import { idOf, published, students } from './course.js';

/** What one student of the demo has handed in to one exercise, answers found and checked by the real checker. */
export interface Work {
  readonly exerciseId: string;
  readonly personId: string;
  readonly values: DrawValues;
  readonly attempts: readonly {
    readonly partId: string;
    readonly attempt: number;
    readonly answer: Answer;
    readonly verdict: Verdict;
    readonly trail: Trail;
    readonly hoursAgo: number;
  }[];
}

/**
 * Everything that the demo’s class has handed in. To find gains that hold takes many checks, so the build works it out
 * once (`prepare.ts`), and the first start only stores it.
 */
export function workOfTheClass(): Work[] {
  return published.flatMap(({ document, byTable = false }, k) =>
    students.flatMap(([name, ...ways], index) => {
      const random = ((index * 7) % students.length) / students.length;
      // Ilse has the later exercises before her; the others are part of the way through them.
      const later = k - 2;
      if (!byTable && (index === 0 || (index + 3 * later) % (3 + later) === 0)) return [];
      const exerciseId = idOf(document.title);
      const personId = idOf(name);
      const values = drawValues(document, seedOf(exerciseId, personId, 0));
      const model = modelOf(document, values);
      const attempts = byTable
        ? byWays(document, model, waysOf(document, ways), random)
        : usual(document, model, (random + later / 7) % 1);
      return [{ exerciseId, personId, values, attempts }];
    }),
  );
}

/** The columns of the table that belong to an exercise’s parts. */
function waysOf({ parts }: ExerciseDocument, ways: string[]): string[] {
  return parts.length === 3 ? ways.slice(0, 3) : ways.slice(3);
}

function byWays({ parts }: ExerciseDocument, model: Model, ways: string[], random: number): Work['attempts'] {
  return parts.flatMap((part, k) => {
    const trail: Trail = [];
    const tries = must(ways[k])
      .split('>')
      .filter((way) => way !== '-');
    return tries.map((way, index) => {
      const answer = part.kind === 'gains' ? trolleyAnswer(way, part, model, random) : lampAnswer(way, model.values);
      const verdict = checkAnswer(part, model, answer);
      if (answer.kind === 'gains') {
        trail.push({ gains: answer.gains, holding: verdict.items.filter((item) => item.met).length });
      }
      const hoursAgo = 30 + 20 * random - 6 * k - index;
      return { partId: part.id, attempt: index + 1, answer, verdict, trail: [...trail], hoursAgo };
    });
  });
}

/** One answer to every part, right or usual. */
function usual({ parts }: ExerciseDocument, model: Model, random: number): Work['attempts'] {
  return parts.flatMap((part, k) => {
    if (part.kind === 'gains' && part.limits && random > 0.4) return [];
    const answer = usualAnswer(part, model, (random + k / 5) % 1, 0.6);
    const verdict = checkAnswer(part, model, answer);
    return [{ partId: part.id, attempt: 1, answer, verdict, trail: [], hoursAgo: 20 + 20 * random - k }];
  });
}

export const preparedFile = path.join(import.meta.dirname, '../demo/handedIn.json');

/** The same as the build has prepared it. */
export const preparedWork = (): Work[] => JSON.parse(readFileSync(preparedFile, 'utf8')) as Work[];
