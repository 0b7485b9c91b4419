import * as Type from 'typebox';

/** What several messages are made of. */

export const closed = { additionalProperties: false };
export const orNull = <T extends Type.TSchema>(of: T) => Type.Union([of, Type.Null()]);
export const Id = Type.String({ pattern: '^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$' });
export const Time = Type.String({ description: 'Date and time, ISO 8601, UTC.' });
