import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const home = path.resolve(__dirname, '..');
const exercise = path.join(home, 'docs/examples/crane-trolley.json');
const folder = mkdtempSync('/tmp/nailset-check-');
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const file = (name: string, text: string): string => {
  const place = path.join(folder, name);
  writeFileSync(place, text);
  return place;
};
const check = (...args: string[]) => spawnSync(path.join(home, 'nailset'), ['check', ...args], { encoding: 'utf8' });

interface Row {
  row: number;
  student: string;
  part: string;
  values: Record<string, string>;
  problem?: string;
  verdict?: { met: boolean; points: number; items: { id: string; measured: number; met: boolean }[] };
}
const rowsOf = (text: string): Row[] =>
  text
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Row);

test('the example is checked as a table, its bad row reported, the rest goes on', () => {
  const { stdout, stderr, status } = check(exercise, path.join(home, 'docs/examples/crane-trolley-answers.csv'));
  expect(status).toBe(0);
  const [heading, ...lines] = stdout.trim().split('\n');
  expect(heading).toBe('row,student,part,answer,met,points,outOf,close,measured,slip,words,problem');
  expect(lines).toHaveLength(4);
  expect(lines[0]).toContain('Overshoot 19.1 %, limit 15 %: 4.1 percentage points too high.');
  expect(lines[3]).toContain('not one of Kp, Ki, Kd');
  expect(stderr).toContain('Row 4 (Hana Verhoeven)');
  expect(stderr).toContain('4 rows, 1 of them not checked.');
});

test('JSON Lines hold every figure; numbers come from the table or from the student’s name', () => {
  const answers = file(
    'answers.csv',
    [
      '\ufeffStudent,Part,Answer,b,a,k',
      'A,pid,"Kp = 14, Ki = 5, Kd = 3",2.4,0.7,1.7',
      'A,Bring it back,14 5 3,2.4,0.7,1.7',
      'A,b,"kd: 3; kp: 14; ki: 5",2.4,0.7,1.7',
      'B,pid,"Kp=14, Ki=5, Kd=3",,,',
      'B,pid,"Kp=14, Ki=5, Kd=3",,,',
      'C,pid,"Kp=14, Ki=5",,,',
      'C,other,1,,,',
      ',pid,14 5 3,,,',
      'D,pid,"Kp=14, Ki=5, Kd=3",x,,',
      'E,pid,"Kp=14, Kp=5",,,',
    ].join('\n'),
  );
  const output = path.join(folder, 'out.jsonl');
  const { status } = check(exercise, answers, '--format', 'jsonl', '--output', output);
  expect(status).toBe(0);
  const rows = rowsOf(readFileSync(output, 'utf8'));
  expect(rows.map(({ row }) => row)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  const [first, byTitle, byLetter, drawn, again] = rows;
  expect(byTitle!.verdict).toEqual(first!.verdict);
  expect(byLetter!.verdict).toEqual(first!.verdict);
  expect(first!.verdict!.items.find(({ id }) => id.includes('over'))!.measured).toBeCloseTo(19.1, 1);
  expect(first!.values).toEqual({ b: '2.4', a: '0.7', k: '1.7' });
  expect(drawn!.values).toEqual(again!.values);
  expect(rows.slice(5).map(({ problem }) => problem)).toEqual([
    'Kd is empty.',
    expect.stringContaining('There is no part “other”; parts: pd, pid.'),
    'The student is missing.',
    '“x” is not a decimal number.',
    expect.stringContaining('is not one of Kp, Ki, Kd'),
  ]);
});

test('files that cannot be used are refused with the place', () => {
  const document = JSON.parse(readFileSync(exercise, 'utf8')) as { parts: Record<string, unknown>[] };
  const broken = { ...document, parts: [{ ...document.parts[0]!, plant: '1/(s^2 + q)' }] };
  const cases: [string[], string][] = [
    [[exercise], 'Two files are needed.'],
    [[exercise, file('no-part.csv', 'student,answer\nA,1\n')], 'has no column “part”'],
    [[path.join(folder, 'missing.json'), exercise], 'missing.json cannot be read'],
    [[file('text.json', 'hello'), exercise], 'cannot be read'],
    [[file('other.json', '{"format":2}'), exercise], 'is no exercise'],
    [[file('broken.json', JSON.stringify(broken)), exercise], 'parts/0/plant: “q” is not known here'],
    [[exercise, path.join(folder, 'missing.csv')], 'missing.csv'],
    [[exercise, exercise, '--format', 'xlsx'], 'csv and jsonl are'],
  ];
  for (const [args, words] of cases) {
    const { status, stderr } = check(...args);
    expect(stderr).toContain(words);
    expect(stderr).not.toContain('    at ');
    expect(status).toBe(1);
  }
});

test('what a spreadsheet would take for a formula is disarmed', () => {
  const answers = file('formula.csv', 'student,part,answer\n"=HYPERLINK(""x"")",pid,14 5 3\n');
  expect(check(exercise, answers).stdout).toContain(`"'=HYPERLINK(""x"")"`);
});
