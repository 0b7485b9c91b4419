import { spawn, spawnSync } from 'node:child_process';
import path from 'node:path';

const launcher = path.resolve(__dirname, '../nailset');
const compute = (input: string, args: string[] = []) => {
  const { stdout, stderr, status } = spawnSync(launcher, ['compute', ...args], { input, encoding: 'utf8' });
  return {
    lines: stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, unknown>),
    stderr,
    status,
  };
};

test('answers line by line, in order, and a bad line stops nothing', () => {
  const { lines, status } = compute(
    [
      '{"id":"a","ask":"roots","polynomial":[1,3,2]}',
      'not json',
      '',
      '{"id":7,"ask":"measures","system":"1/(s+1"}',
      '{"id":null,"ask":"stableGains","system":"1/(s^3+7s^2+10s)"}',
    ].join('\n'),
  );
  expect(status).toBe(0);
  expect(lines).toEqual([
    { id: 'a', result: { roots: [expect.objectContaining({ re: -2 }), expect.objectContaining({ re: -1 })] } },
    { id: null, error: { code: 'json', message: 'This line is not JSON.', at: 0 } },
    { id: 7, error: { code: 'unclosedBracket', message: 'A bracket opened here is never closed.', at: 2 } },
    { id: null, result: { intervals: [[0, expect.closeTo(70, 9)]] } },
  ]);
});

test('each line is answered as it comes, not at the end', async () => {
  const child = spawn(launcher, ['compute']);
  const next = () =>
    new Promise<string>((resolve) => child.stdout.once('data', (chunk: Buffer) => resolve(chunk.toString())));
  for (const id of [1, 2]) {
    const answered = next();
    child.stdin.write(`{"id":${id},"ask":"roots","polynomial":[1,${id}]}\n`);
    expect(JSON.parse(await answered)).toMatchObject({ id, result: { roots: [{ re: -id, im: 0, multiplicity: 1 }] } });
  }
  child.stdin.end();
  expect(await new Promise((resolve) => child.once('close', resolve))).toBe(0);
});

test('hostile lines are refused and the rest is answered', () => {
  const hostile = [
    `{"id":1,"ask":"poles","system":"${'('.repeat(900_000)}"}`,
    `{"id":2,"ask":"roots","polynomial":[${'1,'.repeat(100_000)}1]}`,
    `{"id":3,"ask":"poles","system":"${'((((s+1)^40)^40)^40)^40'}"}`,
    `{"id":4,"ask":"equivalent","left":"(a+b+c+d+e+f+g+h)^40","right":"1"}`,
    `{"id":5,"ask":"transferFunction","system":${'{"equations":'.repeat(3000)}1${'}'.repeat(3000)}}`,
    `{"id":6,"ask":"constructor"}`,
    `{"id":7,"ask":"poles","system":{"__proto__":{},"poles":[1e308,-1e308]}}`,
  ];
  const { lines, status } = compute([...hostile, '{"id":8,"ask":"roots","polynomial":[1,8]}'].join('\n'));
  expect(status).toBe(0);
  expect(lines.map(({ id }) => id)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
  expect(lines.slice(0, 6).map(({ error }) => (error as { code: string }).code)).toEqual([
    'tooLong',
    'query',
    'degree',
    'numberSize',
    'query',
    'query',
  ]);
  expect(lines[7]).toHaveProperty('result');
});

test('explains itself and refuses options it does not know', () => {
  expect(spawnSync(launcher, ['compute', '--help'], { encoding: 'utf8' }).stdout).toContain('docs/compute.md');
  const { status, stderr } = spawnSync(launcher, ['compute', '--fast'], { input: '', encoding: 'utf8' });
  expect(status).toBe(1);
  expect(stderr).toContain('--fast');
});
