import type { Static } from 'typebox';
import * as Type from 'typebox';
import { closed } from './given.js';

/** What answers of all kinds are made of. */

/** A line that a student types. */
export const answerText = Type.String({ maxLength: 2000 });
const typed = Type.String({ maxLength: 60 });
const key = '^[A-Za-zα-ωΑ-Ω][A-Za-z0-9_α-ωΑ-Ω]{0,15}$';

/** Numbers as typed, by the name of a gain or of a parameter. */
export const Settings = Type.Record(Type.String({ pattern: key }), typed, { maxProperties: 16, ...closed });
export type Settings = Static<typeof Settings>;

/** One stop on the trail: settings held for a moment, in order of time; a name and a pin as the student set them. */
export const Trail = Type.Array(
  Type.Object(
    {
      gains: Settings,
      holding: Type.Integer({ minimum: 0 }),
      name: Type.Optional(Type.String({ maxLength: 30 })),
      pinned: Type.Optional(Type.Boolean()),
    },
    closed,
  ),
  { maxItems: 200 },
);
export type Trail = Static<typeof Trail>;
