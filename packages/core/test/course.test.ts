import { courseMark, type MarkCell, type Marking, markingProblem, plainMarking } from '@nailset/core';
import { datesFor, type Extension, isVisible, planRoster, readRoster, weeksLater } from '@nailset/core/checks';
import { randomNumbers } from './random';

const table = (text: string, sign = ',') => [{ name: 'list', rows: text.split('\n').map((row) => row.split(sign)) }];
const people = (text: string, sign?: string) =>
  readRoster(table(text, sign)).entries.map(({ name, email, studentNumber, group }) =>
    [name, email, studentNumber, group].join('|'),
  );

describe('a list of names', () => {
  test.each([
    ['e-mail,name,student number,group\nilse@h.example,Ilse Okafor,4411,Mon', 'Ilse Okafor|ilse@h.example|4411|Mon'],
    [
      'Group;Matrikelnr.;Nachname;Vorname;E-Mail-Adresse\nMon;4411;Okafor;Ilse;ilse@h.example',
      'Ilse Okafor|ilse@h.example|4411|Mon',
    ],
    [
      'Last Name\tFirst Name\tStudent ID\tEmail address\nOkafor\tIlse\t4411\tilse@h.example',
      'Ilse Okafor|ilse@h.example|4411|',
    ],
    ['Nom;Prénom;Courriel;Groupe\nOkafor;Ilse;ilse@h.example;Mon', 'Ilse Okafor|ilse@h.example||Mon'],
    ['ilse@h.example,Ilse Okafor,4411', 'Ilse Okafor|ilse@h.example|4411|'],
    ['Ilse Okafor <ilse@h.example>', 'Ilse Okafor|ilse@h.example||'],
    ['name;email\nOkafor, Ilse;ilse@h.example', 'Ilse Okafor|ilse@h.example||'],
    [
      'SIS ID;Student;Email;Section\n4411;Ilse  Okafor;mailto:ilse@h.example;Mon',
      'Ilse Okafor|ilse@h.example|4411|Mon',
    ],
  ])('%j', (text, expected) => {
    expect(people(text, text.includes('\t') ? '\t' : text.includes(';') ? ';' : ',')).toEqual([expected]);
  });

  test('says of each line that cannot be read what is the matter and where', () => {
    const { entries, unread } = readRoster(
      table(
        [
          'email,name,role',
          'ilse@h.example,Ilse Okafor,student',
          'tomasz at h.example,Tomasz Berg,student',
          ',Nobody,student',
          'marit@h.example,Marit Solano,teacher',
          'yara@h.example,,student',
          'ILSE@h.example,Ilse Someone,student',
          '',
          'ilse@h.example,Ilse Okafor,student',
        ].join('\n'),
      ),
    );
    expect(entries.map(({ line }) => line)).toEqual([2]);
    expect(unread.map(({ line, problem }) => [line, problem])).toEqual([
      [3, '“tomasz at h.example” is no e-mail address.'],
      [4, 'There is no e-mail.'],
      [5, 'Listed as teacher. Staff are named in the list of people.'],
      [6, 'There is no name.'],
      [7, 'Line 2 has the same e-mail and says something else.'],
    ]);
  });

  test('the files of a OneRoster export, as they are', () => {
    const users = {
      name: 'users.csv',
      rows: [
        'sourcedId,status,dateLastModified,enabledUser,username,userIds,givenName,familyName,middleName,identifier,email',
        'u1,active,,true,io,,Ilse,Okafor,,4411,ilse@h.example',
        'u2,active,,true,tb,,Tomasz,Berg,,4412,tomasz@h.example',
        'u3,active,,true,ms,,Marit,Solano,,1,marit@h.example',
        'u4,tobedeleted,,true,gone,,Gone,Away,,5,gone@h.example',
        'u5,active,,true,other,,Not,Enrolled,,6,not@h.example',
      ].map((row) => row.split(',')),
    };
    const enrollments = {
      name: 'enrollments.csv',
      rows: [
        'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role',
        'e1,active,,c1,s,u1,student',
        'e2,active,,c2,s,u2,student',
        'e3,active,,c1,s,u3,teacher',
        'e4,active,,c1,s,u4,student',
      ].map((row) => row.split(',')),
    };
    const classes = {
      name: 'classes.csv',
      rows: ['sourcedId,status,dateLastModified,title', 'c1,active,,Monday', 'c2,active,,Friday'].map((row) =>
        row.split(','),
      ),
    };
    const { entries, unread } = readRoster([enrollments, users, classes]);
    expect(entries.map(({ name, studentNumber, group }) => [name, studentNumber, group])).toEqual([
      ['Ilse Okafor', '4411', 'Monday'],
      ['Tomasz Berg', '4412', 'Friday'],
    ]);
    expect(unread.map(({ line, problem }) => [line, problem])).toEqual([
      [4, 'Listed as teacher. Staff are named in the list of people.'],
    ]);
  });

  test('what taking it in would do, by whom the course knows', () => {
    const member = { role: 'student', studentNumber: '1', group: 'Mon', removed: false };
    const person = (name: string, change: object | null) => ({
      ...{ email: `${name}@H.example`, name },
      member: change && { ...member, ...change },
    });
    const plan = planRoster(
      readRoster(
        table(
          'email,name,number,group\na@h.example,A,1,Mon\nb@h.example,B,1,Tue\nc@h.example,C,1,Mon\nd@h.example,D,,\ne@h.example,E,2,Mon',
        ),
      ).entries,
      [
        person('a', {}),
        person('b', {}),
        person('c', { removed: true }),
        person('d', { group: 'Fri' }),
        person('e', null),
      ],
    );
    expect(plan.map(({ change, words }) => [change, words])).toEqual([
      ['known', 'no change'],
      ['changed', 'group Mon → Tue'],
      ['back', 'comes back into the course'],
      // What the list leaves blank stays.
      ['known', 'no change'],
      ['joins', 'has an account, joins the course'],
    ]);
  });
});

describe('dates', () => {
  const everyone = { visibleFrom: null, dueAt: '2026-12-01T17:00:00.000Z', late: null };
  const own: Extension = { ...everyone, dueAt: '2026-12-08T17:00:00.000Z', personId: 'p', group: null, reason: 'Ill.' };
  const group: Extension = {
    ...own,
    personId: null,
    group: 'Mon',
    dueAt: '2026-12-03T17:00:00.000Z',
    late: { hours: 2, keepPercent: 50 },
  };

  test('one’s own before one’s group’s before everyone’s, and what is left open is as for everyone', () => {
    const due = (personId: string, of: string) => datesFor(everyone, [group, own], { personId, group: of });
    expect(due('p', 'Mon')).toMatchObject({ dueAt: own.dueAt, reason: 'Ill.', late: null });
    expect(due('q', 'Mon')).toMatchObject({ dueAt: group.dueAt, late: { hours: 2 } });
    expect(due('q', '')).toMatchObject({ dueAt: everyone.dueAt, reason: null });
    const lateOnly = { ...own, dueAt: null, late: { hours: 1, keepPercent: 80 } };
    expect(datesFor(everyone, [lateOnly], { personId: 'p', group: '' })).toMatchObject({
      dueAt: everyone.dueAt,
      late: { hours: 1 },
    });
  });

  test('shown from the second on that is said', () => {
    const from = { visibleFrom: '2026-12-01T17:00:00.000Z' };
    expect([-1, 0].map((ms) => isVisible(from, new Date(Date.parse(from.visibleFrom) + ms)))).toEqual([false, true]);
    expect(isVisible({ visibleFrom: null }, new Date(0))).toBe(true);
  });

  test('weeks later at the same time of day, over a change of clocks', () => {
    expect(weeksLater('2026-10-20T16:00:00.000Z', 1, 'Europe/Berlin')).toBe('2026-10-27T17:00:00.000Z');
    expect(weeksLater('2026-03-24T17:00:00.000Z', 1, 'Europe/Berlin')).toBe('2026-03-31T16:00:00.000Z');
    expect(weeksLater('2026-10-20T16:00:00.000Z', 52, 'UTC')).toBe('2027-10-19T16:00:00.000Z');
    expect(() => weeksLater('2026-10-20T16:00:00.000Z', 1, 'Harbour/Quay')).toThrow(RangeError);
  });
});

describe('marks', () => {
  const cell = (exerciseId: string, points: number | null, more: Partial<MarkCell> = {}): MarkCell => ({
    ...{ exerciseId, points, outOf: 10, excused: false, open: false },
    ...more,
  });
  const sets = (best: number | null, more: Marking['exercises'] = {}): Marking => ({
    sets: [
      { id: 'weekly', name: 'Weekly', weight: 40, best },
      { id: 'final', name: 'Final', weight: 60, best: null },
    ],
    exercises: { f: { set: 'final', weight: null, bonus: false }, ...more },
  });

  test('every point counts alike where nothing is said; what is not handed in is 0, what is open or excused is left out', () => {
    const mark = courseMark(plainMarking, [
      cell('a', 8),
      cell('b', 5, { outOf: 30 }),
      cell('c', null),
      cell('d', null, { open: true }),
      cell('e', 0, { excused: true }),
    ]);
    expect(mark.total).toBeCloseTo(13 / 50, 12);
    expect(mark.sets[0]!.counting).toEqual({ a: 'counts', b: 'counts', c: 'counts', d: 'open', e: 'excused' });
  });

  test('the best n of a set by share, sets by weight, and a set where nothing counts is left out', () => {
    const cells = [cell('a', 10), cell('b', 4), cell('c', 7)];
    const mark = courseMark(sets(2), [...cells, cell('f', 5)]);
    expect(mark.sets.map(({ share }) => share)).toEqual([expect.closeTo(0.85, 12), 0.5]);
    expect(mark.sets[0]!.counting).toMatchObject({ b: 'dropped' });
    expect(mark.total).toBeCloseTo(0.4 * 0.85 + 0.6 * 0.5, 12);
    expect(courseMark(sets(2), [...cells, cell('f', null, { open: true })]).total).toBeCloseTo(0.85, 12);
    expect(courseMark(sets(2), []).total).toBeNull();
  });

  test('a bonus adds and never takes away', () => {
    const withBonus = (points: number | null) =>
      courseMark(sets(null, { x: { set: 'weekly', weight: null, bonus: true } }), [cell('a', 6), cell('x', points)])
        .total;
    expect([withBonus(null), withBonus(0), withBonus(5), withBonus(10)]).toEqual(
      [0.6, 0.6, 1.1, 1.6].map((share): unknown => expect.closeTo(share, 12)),
    );
  });

  test('more points never lower a mark, whatever the sets, weights and best n', () => {
    const random = randomNumbers(19);
    const pick = (n: number) => Math.floor(random() * n);
    for (let k = 0; k < 300; k++) {
      const marking: Marking = {
        sets: [0, 1].map((id) => ({
          id: `s${id}`,
          name: `S${id}`,
          weight: 1 + pick(5),
          best: pick(2) ? 1 + pick(3) : null,
        })),
        exercises: Object.fromEntries(
          Array.from({ length: 6 }, (_, e) => [
            `e${e}`,
            { set: `s${pick(2)}`, weight: pick(2) ? 1 + pick(4) : null, bonus: pick(5) === 0 },
          ]),
        ),
      };
      const cells = Array.from({ length: 6 }, (_, e) =>
        cell(`e${e}`, pick(4) ? pick(11) : null, { excused: pick(8) === 0 }),
      );
      const raised = cells.map((each, e) =>
        e === pick(6) ? { ...each, points: Math.min(10, (each.points ?? 0) + 1) } : each,
      );
      const [before, after] = [courseMark(marking, cells).total, courseMark(marking, raised).total];
      expect(after ?? 0).toBeGreaterThanOrEqual((before ?? 0) - 1e-12);
    }
  });

  test('a scheme that cannot be is refused in words', () => {
    const [first] = plainMarking.sets;
    expect(markingProblem(plainMarking)).toBeUndefined();
    expect(markingProblem({ ...plainMarking, sets: [{ ...first!, weight: 0 }] })).toMatch(/weighs 0/);
    expect(markingProblem({ ...plainMarking, sets: [first!, first!] })).toMatch(/same id/);
    expect(markingProblem({ ...plainMarking, exercises: { a: { set: 'gone', weight: 1, bonus: false } } })).toMatch(
      /not there/,
    );
  });
});
