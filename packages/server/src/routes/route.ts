import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox';
import { ErrorMessage, Id } from '@nailset/core';
import type {
  FastifyBaseLogger,
  FastifyInstance,
  RawReplyDefaultExpression,
  RawRequestDefaultExpression,
  RawServerDefault,
} from 'fastify';
import Type from 'typebox';
import type { VerdictNews } from '../checks/news.js';
import type { Threads } from '../checks/threads.js';
import type { Limits } from '../limits.js';
import type { Post } from '../mail.js';
import type { Settings } from '../settings.js';
import type { Database } from '../store/database.js';

/** What every group of routes is given. */
export interface House {
  readonly database: Database;
  readonly threads: Threads;
  readonly news: VerdictNews;
  readonly limits: Limits;
  /** Undefined where no mail is sent. */
  readonly post: Post | undefined;
  readonly settings: Settings;
}

/** The server as routes see it: types follow from the schemas. */
export type App = FastifyInstance<
  RawServerDefault,
  RawRequestDefaultExpression,
  RawReplyDefaultExpression,
  FastifyBaseLogger,
  TypeBoxTypeProvider
>;

/** Answer with the given schema, or the error message that all routes share. */
export const answers = <T extends Type.TSchema>(of: T) =>
  ({ 200: of, '4xx': ErrorMessage, '5xx': ErrorMessage }) as const;

export const nothing = Type.Object({}, { additionalProperties: false });
export const byCourse = Type.Object({ courseId: Id });
export const byExercise = Type.Object({ exerciseId: Id });
export const bySubmission = Type.Object({ submissionId: Id });
