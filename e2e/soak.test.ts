import { execFileSync } from 'node:child_process';
import path from 'node:path';

test('half a minute of kills of servers, worker and database loses and doubles nothing', () => {
  const script = path.resolve(__dirname, '../bench/soak.mjs');
  const said = execFileSync(process.execPath, [
    script,
    '--minutes',
    '0.6',
    '--every',
    '6',
    '--students',
    '6',
  ]).toString();
  expect(said).toMatch(/^[3-9] kills/);
  expect(said).toMatch(
    /Missing 0, not acknowledged but there 0, without exactly one verdict 0, drafts that are not the last 0\./,
  );
}, 240_000);
