// Rooms of the core in the order in which data flows. A room may use those on its left, never those on its right.
const rooms = [
  'expression',
  'rational',
  'symbolic',
  'diagram',
  'system',
  'frequency',
  'response',
  'locus',
  'design',
  'quantity',
  'formula',
  'working',
  'exercise',
  'sheet',
  'loop',
  'checking',
  'kinds',
  'proof',
  'course',
  'exchange',
  'batch',
];

/** The rooms of the web application, in the order in which they may use each other. */
const webRooms = [
  'shared',
  'api',
  'page',
  'plot',
  'loop',
  'diagram',
  'plane',
  'frequency',
  'statement',
  'ledger',
  'workshop',
  'kinds',
  'work',
  'bench',
  'lectern',
  'dates',
  'builder',
  'open',
  'classSheet',
  'corrections',
  'paper',
  'people',
  'marks',
  'course',
  'account',
  'signIn',
];

/** The schemas of a kind of answer; they belong to the exercise’s room, whichever folder they lie in. */
const schemas = '^packages/core/src/kinds/[^/]+/part\\.ts$';

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-stands-alone',
      comment: 'Core knows no interface, network, database or Node API: only itself, the schema library and numerics.',
      severity: 'error',
      from: { path: '^packages/core/src' },
      to: { pathNot: ['^packages/core/src', 'node_modules/(typebox|ml-|javascript-lp-solver)'] },
    },
    ...rooms.map((room, index) => ({
      name: `core-${room}-looks-left`,
      severity: 'error',
      from: { path: `^packages/core/src/${room}/` },
      to: { path: `^packages/core/src/(${rooms.slice(index + 1).join('|') || 'nothing'})/`, pathNot: schemas },
    })),
    {
      name: 'schemas-of-kinds-are-leaves',
      comment: 'What a kind asks, takes and shows is part of the document, so the exercise’s room reads it.',
      severity: 'error',
      from: { path: schemas },
      to: {
        path: '^packages/core/src/(loop|checking|kinds|proof|course|exchange|batch)/',
        pathNot: `${schemas}|trends`,
      },
    },
    {
      name: 'kinds-apart',
      comment: 'A kind of answer knows no other; what several use lies in a room to the left.',
      severity: 'error',
      from: { path: '^packages/core/src/kinds/([^/]+)/' },
      to: { path: '^packages/core/src/kinds/[^/]+/', pathNot: ['^packages/core/src/kinds/$1/', schemas] },
    },
    {
      name: 'server-and-web-apart',
      severity: 'error',
      from: { path: '^packages/(server|web)/' },
      to: { path: '^packages/(server|web)/', pathNot: '^packages/$1/' },
    },
    {
      name: 'core-by-its-door',
      comment: 'Server and web use what the three doors of core export, not its files.',
      severity: 'error',
      from: { path: '^packages/(server|web)/src' },
      to: { path: '^packages/core/src/(?!index|checks|diagrams)' },
    },
    {
      name: 'store-below-routes',
      severity: 'error',
      from: { path: '^packages/server/src/store' },
      to: { path: '^packages/server/src/(routes|checks|app|main)' },
    },
    ...webRooms.map((room, index) => ({
      name: `web-${room}-looks-left`,
      severity: 'error',
      from: { path: `^packages/web/src/${room}/` },
      to: { path: `^packages/web/src/(${webRooms.slice(index + 1).join('|') || 'nothing'})/` },
    })),
    {
      name: 'open-rooms',
      comment:
        'The open bench: fields, then what a sheet is, then its lines and its panes, which do not know each other.',
      severity: 'error',
      from: { path: '^packages/web/src/open/(fields|sheet|lines|panes)/' },
      to: {
        path: '^packages/web/src/open/',
        pathNot: '^packages/web/src/open/(fields|sheet|$1)/',
      },
    },
    {
      name: 'open-sheet-below',
      severity: 'error',
      from: { path: '^packages/web/src/open/fields/' },
      to: { path: '^packages/web/src/open/sheet/' },
    },
    {
      name: 'web-kinds-apart',
      comment: 'The bench and the editor of one kind of answer know no other kind.',
      severity: 'error',
      from: { path: '^packages/web/src/kinds/([^/]+)/', pathNot: '^packages/web/src/kinds/fields/' },
      to: { path: '^packages/web/src/kinds/[^/]+/', pathNot: '^packages/web/src/kinds/($1|fields)/' },
    },
    {
      name: 'not-to-unresolvable',
      severity: 'error',
      from: {},
      to: { couldNotResolve: true, pathNot: '\\.(css|svg)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default', 'types'] },
  },
};
