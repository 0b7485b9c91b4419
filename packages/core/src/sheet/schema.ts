import * as Type from 'typebox';
import { quantityNames } from '../quantity/names.js';
import { driveKinds, linePanes, sheetLimits, sheetPanes, timeUnits } from './sheet.js';

const number = Type.Number({ minimum: -1e9, maximum: 1e9 });
const time = Type.Number({ minimum: 0, maximum: 1e9 });
const positive = Type.Number({ exclusiveMinimum: 0, maximum: 1e9 });
const signal = Type.String({ maxLength: 40 });
const column = Type.Array(Type.Number({ minimum: -1e12, maximum: 1e12 }), { minItems: 2, maxItems: sheetLimits.rows });
const tableName = Type.String({ maxLength: sheetLimits.title });

const line = Type.Object({
  name: Type.String({ maxLength: sheetLimits.name, description: 'What stands left of the sign.' }),
  text: Type.String({ maxLength: sheetLimits.text, description: 'What stands right of it.' }),
  drawn: Type.Optional(Type.Boolean({ default: true })),
  panes: Type.Optional(Type.Enum([...linePanes], { default: 'all' })),
  from: Type.Optional(Type.String({ maxLength: 40, description: 'The input that is driven; empty for all together.' })),
  probes: Type.Optional(Type.Array(signal, { maxItems: sheetLimits.probes, description: 'The signals looked at.' })),
  groups: Type.Optional(
    Type.Array(
      Type.Object({
        name: Type.String({ minLength: 1, maxLength: sheetLimits.groupName }),
        signals: Type.Array(signal, { maxItems: sheetLimits.grouped }),
        closed: Type.Optional(Type.Boolean({ default: false, description: 'Drawn as one block.' })),
      }),
      { maxItems: sheetLimits.groups, description: 'Equations that belong together, by the signals on their left.' },
    ),
  ),
});

const drive = Type.Object({
  kind: Type.Enum([...driveKinds]),
  from: Type.Optional(number),
  to: Type.Optional(number),
  size: Type.Optional(number),
  omega: Type.Optional({ ...positive, description: 'In rad/s.' }),
  at: Type.Optional({ ...time, description: 'When it sets in.' }),
  text: Type.Optional(Type.String({ maxLength: sheetLimits.text, description: 'A function of t.' })),
  name: Type.Optional({ ...tableName, description: 'A measured table.' }),
});

const nail = Type.Object({
  quantity: Type.Enum([...quantityNames]),
  relation: Type.Enum(['atMost', 'atLeast']),
  limit: Type.Number({ minimum: -1e12, maximum: 1e12 }),
});

const data = Type.Union([
  Type.Object({ name: tableName, times: column, values: column }),
  Type.Object({ name: tableName, omegas: column, magnitudesDb: column, phasesDegrees: Type.Optional(column) }),
]);

/**
 * The file of a sheet as a JSON Schema, for other programs. What it cannot say, `sheetFrom` checks as well: that times and
 * frequencies rise, and that each has its value.
 */
export const SheetFile = Type.Object(
  {
    format: Type.Literal(1),
    title: Type.Optional(Type.String({ maxLength: sheetLimits.title })),
    lines: Type.Array(line, { minItems: 1, maxItems: sheetLimits.lines, description: 'Read from the top.' }),
    drives: Type.Optional(Type.Array(drive, { maxItems: sheetLimits.drives })),
    initial: Type.Optional(
      Type.Array(number, { maxItems: sheetLimits.initial, description: 'y, y′, … at t = 0, or the states.' }),
    ),
    unit: Type.Optional(Type.Enum([...timeUnits], { default: 's' })),
    time: Type.Optional(Type.Union([positive, Type.Null()], { description: 'How long responses are shown.' })),
    panes: Type.Optional(Type.Array(Type.Enum([...sheetPanes]))),
    nails: Type.Optional(Type.Array(nail, { maxItems: sheetLimits.nails })),
    data: Type.Optional(Type.Array(data, { maxItems: sheetLimits.data })),
  },
  { title: 'A sheet of Nailset’s open bench', $schema: 'https://json-schema.org/draft/2020-12/schema' },
);
