/** A list of names, as registries and instructors have them, read as people of a course. Pure. */

/** A file as rows of cells, the first row being its headers where it has some. */
export interface Listed {
  readonly name: string;
  readonly rows: readonly (readonly string[])[];
}

/** Someone in a list. What the list does not say, or leaves blank, is null, and stays as it is. */
export interface RosterEntry {
  /** One-based line of the file. */
  readonly line: number;
  readonly email: string;
  readonly name: string;
  readonly studentNumber: string | null;
  readonly group: string | null;
}

export interface UnreadLine {
  readonly line: number;
  readonly text: string;
  readonly problem: string;
}

export interface Roster {
  readonly entries: readonly RosterEntry[];
  readonly unread: readonly UnreadLine[];
}

type Column = 'email' | 'name' | 'given' | 'family' | 'studentNumber' | 'group' | 'role' | 'status' | 'enabled' | 'id';

/** How registries call their columns, without accents, blanks and signs; the first that fits. */
const headers: readonly [Column, RegExp][] = [
  ['email', /^(e?mail(address|adresse)?|correo(electronico)?|courriel|posta|sisemail)$/],
  ['given', /^(given|first|fore)names?$|^(vorname|prenom|nombre|nome|voornaam|fornavn)$/],
  ['family', /^(family|last|sur)names?$|^(surname|nachname|familienname|nomdefamille|apellidos?|cognome|achternaam)$/],
  ['name', /^((full|display|student)?names?|student|nom|naam|navn|person)$/],
  [
    'studentNumber',
    /^(student|matriculation|registration|enrolment|enrollment|matrikel|matr|id|identifier|university)(numbers?|nr|no|id)?$|^(number|nr|no|sisid|matricola|matricula|studentid|identifier)$/,
  ],
  ['group', /^(group|section|class|tutorial|seminar|gruppe|groupe|grupo|gruppo|groep|team)(name|no|nr|id|number)?$/],
  ['role', /^(role|roles|primaryrole)$/],
  ['status', /^status$/],
  ['enabled', /^enableduser$/],
  ['id', /^sourcedid$/],
];

const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '');

const emailPattern = /^[^\s@<>,;"]+@[^\s@<>,;"]+$/;
const isEmail = (text: string): boolean => text.length <= 200 && emailPattern.test(text);

/** Reads a list, or the files of a OneRoster 1.2 export (users, and with them enrollments and classes) as they are. */
export function readRoster(files: readonly Listed[]): Roster {
  const users = files.find(({ rows }) => has(rows[0], 'sourcedid', 'givenname'));
  return users ? oneRoster(users, files) : plainList(files);
}

const has = (row: readonly string[] | undefined, ...names: string[]): boolean =>
  row !== undefined && names.every((name) => row.some((cell) => plain(cell) === name));

function plainList(files: readonly Listed[]): Roster {
  const entries: RosterEntry[] = [];
  const unread: UnreadLine[] = [];
  for (const { rows } of files) {
    const first = rows.findIndex((row) => row.some((cell) => cell.trim() !== ''));
    if (first < 0) continue;
    const columns = columnsOf(rows, first);
    for (let k = columns.from; k < rows.length; k++) {
      const row = rows[k] ?? [];
      if (row.every((cell) => cell.trim() === '')) continue;
      take(readLine(row, columns.of, k + 1), entries, unread);
    }
  }
  return { entries, unread };
}

/** Takes a line in, unless its e-mail stands above with something else beside it. */
function take(entry: RosterEntry | UnreadLine, entries: RosterEntry[], unread: UnreadLine[]): void {
  if ('problem' in entry) {
    unread.push(entry);
    return;
  }
  const twin = entries.find(({ email }) => email.toLowerCase() === entry.email.toLowerCase());
  if (!twin) entries.push(entry);
  else if (twin.name !== entry.name || twin.studentNumber !== entry.studentNumber || twin.group !== entry.group) {
    const problem = `Line ${twin.line} has the same e-mail and says something else.`;
    unread.push({ line: entry.line, text: entry.email, problem });
  }
}

/** Which column is which: by its header, or without headers by what stands in it. */
function columnsOf(rows: Listed['rows'], first: number): { of: Map<Column, number>; from: number } {
  const head = rows[first] ?? [];
  const columns = new Map<Column, number>();
  if (!head.some((cell) => addressIn(cell) !== undefined)) {
    head.forEach((cell, k) => {
      const [column] = headers.find(([, pattern]) => pattern.test(plain(cell))) ?? [];
      if (column && !columns.has(column)) columns.set(column, k);
    });
    if (columns.size > 0) return { of: columns, from: first + 1 };
  }
  head.forEach((cell, k) => {
    const text = cell.trim();
    if (addressIn(text) !== undefined) set(columns, 'email', k);
    else if (/^\p{L}?\d[\d\p{L} ./-]*$/u.test(text)) set(columns, 'studentNumber', k);
    else if (!columns.has('name') && text) columns.set('name', k);
    else if (text) set(columns, 'group', k);
  });
  return { of: columns, from: first };
}

function set(columns: Map<Column, number>, column: Column, k: number): void {
  if (!columns.has(column)) columns.set(column, k);
}

/** The address in a cell, also as mail programs write it: `Ilse Okafor <ilse@harbour.example>`. */
function addressIn(cell: string): string | undefined {
  const text = cell.trim().replace(/^mailto:/i, '');
  if (isEmail(text)) return text;
  const inside = /<([^<>\s]+)>$/.exec(text)?.[1];
  return inside && isEmail(inside) ? inside : undefined;
}

function readLine(row: readonly string[], columns: Map<Column, number>, line: number): RosterEntry | UnreadLine {
  const cell = (column: Column) => {
    const k = columns.get(column);
    return k === undefined ? '' : (row[k] ?? '').trim().replace(/\s+/g, ' ');
  };
  const text = row.join(', ').slice(0, 120);
  const raw = cell('email');
  const email = addressIn(raw);
  if (!email) {
    if (raw) return { line, text, problem: `“${raw.slice(0, 60)}” is no e-mail address.` };
    return { line, text, problem: columns.has('email') ? 'There is no e-mail.' : 'No column holds e-mail addresses.' };
  }
  const role = plain(cell('role'));
  if (role && !/^(student|learner|lernende|etudiant|studentin)$/.test(role)) {
    return { line, text, problem: `Listed as ${cell('role')}. Staff are named in the list of people.` };
  }
  // Where given names stand alone, a column called “name” holds the family’s.
  const family = cell('family') || (cell('given') ? cell('name') : '');
  const whole = [cell('given'), family].filter(Boolean).join(' ');
  const name = whole || inOrder(cell('name')) || (raw.split('<')[0] ?? '').trim();
  if (!name || name.includes('@')) return { line, text, problem: 'There is no name.' };
  if (name.length > 100) return { line, text, problem: 'The name is longer than 100 letters.' };
  const said = (column: Column) => cell(column) || null;
  const entry = { line, email, name, studentNumber: said('studentNumber'), group: said('group') };
  const long = [entry.studentNumber, entry.group].find((value) => (value?.length ?? 0) > 60);
  return long ? { line, text, problem: `“${long.slice(0, 40)}…” is longer than 60 letters.` } : entry;
}

/** `Okafor, Ilse` as `Ilse Okafor`. */
function inOrder(name: string): string {
  const [family = '', given, more] = name.split(',').map((piece) => piece.trim());
  return given && more === undefined ? `${given} ${family}` : name;
}

/** The files of a OneRoster 1.2 export. Who has left is left out; a class is the group where there are several. */
function oneRoster(users: Listed, files: readonly Listed[]): Roster {
  const table = ({ rows }: Listed) => {
    const names = (rows[0] ?? []).map(plain);
    return rows
      .slice(1)
      .map((row, k) => ({ line: k + 2, row, of: (name: string) => (row[names.indexOf(name)] ?? '').trim() }));
  };
  const find = (...names: string[]) => files.find((file) => file !== users && has(file.rows[0], ...names));
  const enrolled = find('usersourcedid', 'classsourcedid');
  const classes = find('sourcedid', 'title');
  const titles = new Map((classes ? table(classes) : []).map(({ of }) => [of('sourcedid'), of('title')]));
  const present = ({ of }: { of: (name: string) => string }) => plain(of('status')) !== 'tobedeleted';
  const seats = new Map<string, { role: string; group: string }[]>();
  for (const seat of enrolled ? table(enrolled).filter(present) : []) {
    const group = titles.get(seat.of('classsourcedid')) ?? seat.of('classsourcedid');
    const id = seat.of('usersourcedid');
    seats.set(id, [...(seats.get(id) ?? []), { role: seat.of('role'), group }]);
  }
  const groups = new Set([...seats.values()].flat().map(({ group }) => group));
  const entries: RosterEntry[] = [];
  const unread: UnreadLine[] = [];
  for (const user of table(users).filter(present)) {
    const { line, row, of } = user;
    const places = seats.get(of('sourcedid'));
    if (plain(of('enableduser')) === 'false' || (enrolled && !places)) continue;
    const role = places?.[0]?.role ?? of('role');
    const group = groups.size > 1 ? (places?.[0]?.group ?? '') : null;
    const cells: [Column, string][] = [
      ['email', of('email')],
      ['given', of('preferredgivenname') || of('givenname')],
      ['family', of('preferredfamilyname') || of('familyname')],
      ['studentNumber', of('identifier') || of('sourcedid')],
      ...(role ? [['role', role] as [Column, string]] : []),
      ...(group === null ? [] : [['group', group] as [Column, string]]),
    ];
    const columns = new Map(cells.map(([column], k) => [column, k]));
    const entry = readLine(
      cells.map(([, cell]) => cell),
      columns,
      line,
    );
    take('problem' in entry ? { ...entry, text: row.join(', ').slice(0, 120) } : entry, entries, unread);
  }
  return { entries, unread };
}

/** Someone whom the course or the installation knows. */
export interface KnownPerson {
  readonly email: string;
  readonly name: string;
  /** Null for an account that is not in the course. */
  readonly member: {
    readonly role: string;
    readonly studentNumber: string;
    readonly group: string;
    readonly removed: boolean;
  } | null;
}

/** What taking a list in does with one of its people. */
export type RosterChange = 'new' | 'joins' | 'back' | 'changed' | 'known';

/** What taking a list in would do, line by line; `known` people must include every account of the list. */
export function planRoster(
  entries: readonly RosterEntry[],
  known: readonly KnownPerson[],
): readonly (RosterEntry & { readonly change: RosterChange; readonly words: string })[] {
  const byEmail = new Map(known.map((person) => [person.email.toLowerCase(), person]));
  return entries.map((entry) => {
    const person = byEmail.get(entry.email.toLowerCase());
    const name = person?.name ?? entry.name;
    return { ...entry, name, ...changeOf(entry, person) };
  });
}

function changeOf(entry: RosterEntry, person: KnownPerson | undefined): { change: RosterChange; words: string } {
  if (!person) return { change: 'new', words: 'gets an account' };
  if (!person.member) return { change: 'joins', words: 'has an account, joins the course' };
  const { studentNumber, group, removed } = person.member;
  if (removed) return { change: 'back', words: 'comes back into the course' };
  const moved = (what: string, before: string, after: string | null) =>
    after === null || after === before ? [] : [`${what} ${before || 'none'} → ${after || 'none'}`];
  const words = [...moved('number', studentNumber, entry.studentNumber), ...moved('group', group, entry.group)];
  return words.length > 0 ? { change: 'changed', words: words.join(', ') } : { change: 'known', words: 'no change' };
}
