import type { Static } from 'typebox';
import * as Type from 'typebox';
import type { Sheet } from '../sheet/sheet.js';
import { closed, Count, Id, orNull, Time } from './common.js';
import { DraftSaved } from './messages.js';

/** What server and web say to each other about sheets of the open bench. */

export const BenchSheetRow = Type.Object(
  {
    id: Id,
    title: Type.String(),
    savedAt: Time,
    courseId: orNull(Id),
    course: orNull(Type.String({ description: 'The course that it is shared with.' })),
    by: Type.String(),
    mine: Type.Boolean(),
  },
  closed,
);
export type BenchSheetRow = Static<typeof BenchSheetRow>;
const benchSheet = Type.Unsafe<Sheet>(
  Type.Object({}, { additionalProperties: true, description: 'A bench sheet, as in docs/sheet.md.' }),
);
export const KeptSheet = Type.Object(
  { ...BenchSheetRow.properties, revision: Type.Integer(), sheet: benchSheet },
  closed,
);
export type KeptSheet = Static<typeof KeptSheet>;
export const SheetSave = Type.Object(
  { revision: Count({ description: '0 for one that is not there yet.' }), sheet: Type.Object({}) },
  closed,
);
export type SheetSave = Static<typeof SheetSave>;
export const SheetSaved = DraftSaved;
export type SheetSaved = DraftSaved;
export const SheetShare = Type.Object({ courseId: orNull(Id) }, closed);
export type SheetShare = Static<typeof SheetShare>;
