import { randomUUID } from 'node:crypto';
import type { BenchSheetRow, KeptSheet, Sheet } from '@nailset/core';
import { benchSheet, type Browser, type SmallCourse, smallCourse, TestServer } from './harness';

let server: TestServer;
let course: SmallCourse;
beforeAll(async () => {
  server = await TestServer.start();
  course = await smallCourse(server);
});
afterAll(() => server.end());

interface Refused {
  error: { code: string; message: string };
}
const sheet = (title: string): Sheet => ({ ...benchSheet, title });
const keep = (browser: Browser, id: string, revision: number, title: string) =>
  browser.send<Refused & { revision: number }>('PUT', `/api/sheets/${id}`, { revision, sheet: sheet(title) });
const titles = async (browser: Browser) =>
  (await browser.get<BenchSheetRow[]>('/sheets')).body.map(({ title, mine }) => `${mine ? 'my' : 'their'} ${title}`);
const share = (browser: Browser, id: string, courseId: string | null) =>
  browser.send<Refused>('PUT', `/api/sheets/${id}/course`, { courseId });

describe('a bench sheet', () => {
  test('is kept under its maker’s own name for it, found again, the newest first', async () => {
    const [winch, crane] = [randomUUID(), randomUUID()];
    expect((await keep(course.student, winch, 0, 'Winch')).body.revision).toBe(1);
    await keep(course.student, crane, 0, 'Crane');
    expect((await keep(course.student, winch, 1, 'Winch, slower')).body.revision).toBe(2);
    expect(await titles(course.student)).toEqual(['my Winch, slower', 'my Crane']);
    const { body } = await course.student.get<KeptSheet>(`/sheets/${winch}`);
    expect(body).toMatchObject({ revision: 2, mine: true, courseId: null, sheet: sheet('Winch, slower') });
  });

  test('saved twice by a browser that heard no answer is one sheet, and the second is told', async () => {
    const id = randomUUID();
    await keep(course.student, id, 0, 'Gate');
    const again = await keep(course.student, id, 0, 'Gate, later');
    expect([again.status, again.body.error.code]).toEqual([409, 'changedElsewhere']);
    expect((await titles(course.student)).filter((title) => title.includes('Gate'))).toEqual(['my Gate']);
  });

  test('of two windows that go on from the same one, the second is refused and nothing is lost', async () => {
    const id = randomUUID();
    await keep(course.student, id, 0, 'Buoy');
    const both = await Promise.all([keep(course.student, id, 1, 'one'), keep(course.student, id, 1, 'other')]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await course.student.get<KeptSheet>(`/sheets/${id}`)).body.revision).toBe(2);
  });

  test('is nobody else’s to see, to write over, to share or to remove', async () => {
    const id = randomUUID();
    await keep(course.student, id, 0, 'Secret');
    for (const other of [course.instructor, course.other]) {
      expect((await other.get(`/sheets/${id}`)).status).toBe(404);
      expect((await keep(other, id, 0, 'Mine now')).status).toBe(404);
      expect((await keep(other, id, 1, 'Mine now')).status).toBe(404);
      expect((await other.send('DELETE', `/api/sheets/${id}`)).status).toBe(404);
      expect(await titles(other)).not.toContain('their Secret');
    }
    expect((await share(course.instructor, id, course.courseId)).status).toBe(404);
    expect((await course.student.get<KeptSheet>(`/sheets/${id}`)).body.title).toBe('Secret');
  });

  test('is shared with a course by its instructor, for its members alone, until it is taken back', async () => {
    const id = randomUUID();
    await keep(course.instructor, id, 0, 'For the lecture');
    expect((await share(course.instructor, id, course.courseId)).status).toBe(200);
    expect(await titles(course.student)).toContain('their For the lecture');
    expect((await course.student.get<KeptSheet>(`/sheets/${id}`)).body).toMatchObject({ mine: false, revision: 1 });
    expect((await keep(course.student, id, 1, 'Changed by a student')).status).toBe(404);
    expect((await course.outsider.get(`/sheets/${id}`)).status).toBe(404);
    await share(course.instructor, id, null);
    expect(await titles(course.student)).not.toContain('their For the lecture');
    expect((await course.student.get(`/sheets/${id}`)).status).toBe(404);
  });

  test('is no student’s to share', async () => {
    const id = randomUUID();
    await keep(course.student, id, 0, 'Mine');
    expect((await share(course.student, id, course.courseId)).status).toBe(403);
  });

  test('that is removed is gone, also for a window that still has it', async () => {
    const id = randomUUID();
    await keep(course.student, id, 0, 'Old');
    expect((await course.student.send('DELETE', `/api/sheets/${id}`)).status).toBe(200);
    expect((await course.student.get(`/sheets/${id}`)).status).toBe(404);
    const late = await keep(course.student, id, 1, 'Old, late');
    expect([late.status, late.body.error.message]).toEqual([409, 'This sheet was removed in another window.']);
  });

  test.each([
    ['no lines', { ...benchSheet, lines: [] }, /lines/],
    ['another format', { ...benchSheet, format: 2 }, /format/],
  ])('with %s is refused in words', async (_, bad, words) => {
    const answer = await course.student.send<Refused>('PUT', `/api/sheets/${randomUUID()}`, {
      revision: 0,
      sheet: bad,
    });
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(answer.status).toBeLessThan(500);
    expect(answer.body.error.message).toMatch(words);
  });

  test('with a letter that no database takes is kept without it', async () => {
    const id = randomUUID();
    expect((await keep(course.student, id, 0, 'Win\u0000ch')).status).toBe(200);
    expect((await course.student.get<KeptSheet>(`/sheets/${id}`)).body.title).toMatch(/^Win.?ch$/);
  });

  test('keeps what is known of it and nothing else', async () => {
    const id = randomUUID();
    const more = { ...sheet('Plain'), more: 'x'.repeat(1000), lines: [{ name: 'G', text: '1/s', tail: 1 }] };
    await course.student.send('PUT', `/api/sheets/${id}`, { revision: 0, sheet: more });
    expect((await course.student.get<KeptSheet>(`/sheets/${id}`)).body.sheet).toEqual({
      ...sheet('Plain'),
      lines: [{ name: 'G', text: '1/s', drawn: true, panes: 'all' }],
    });
  });
});
