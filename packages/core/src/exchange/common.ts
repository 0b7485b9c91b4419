import type { Static } from 'typebox';
import * as Type from 'typebox';

/** What several messages are made of. */

export const closed = { additionalProperties: false };
export const orNull = <T extends Type.TSchema>(of: T) => Type.Union([of, Type.Null()]);
export const Id = Type.String({ pattern: '^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$' });
/** A whole number from 0 on, no larger than the database keeps. */
export const Count = (options: Type.TNumberOptions = {}) =>
  Type.Integer({ minimum: 0, maximum: 2 ** 31 - 1, ...options });
export const Time = Type.String({ description: 'Date and time, ISO 8601, UTC.' });
export const Reason = Type.String({ minLength: 3, maxLength: 500, pattern: '\\S' });

export const Person = Type.Object({ id: Id, name: Type.String(), email: Type.String() }, closed);
export type Person = Static<typeof Person>;

/** What staff said about an answer. */
export const CommentRow = Type.Object({ text: Type.String(), by: Type.String(), at: Time }, closed);
export type CommentRow = Static<typeof CommentRow>;

/** A correction that changed a verdict, as everyone sees it whom it concerns. */
export const CorrectedBy = Type.Object({ version: Type.Integer(), reason: Type.String(), at: Time }, closed);
export type CorrectedBy = Static<typeof CorrectedBy>;
