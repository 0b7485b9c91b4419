import type { Bench, StudentPart } from '@nailset/core';

const id = '00000000-0000-0000-0000-000000000000';

/** A bench with these parts, on which nothing has happened. */
export const benchWith = (parts: readonly StudentPart[], more: Partial<Bench> = {}): Bench => ({
  ...{ exerciseId: id, versionId: id, version: 1, courseId: id, course: 'Harbour machinery' },
  ...{ title: 'Quay', statement: '', attempts: 3, layout: 'together' },
  ...{ dueAt: null, extended: null, closesAt: null, mayHandIn: true, late: null },
  ...{ parameters: [], blocks: [], open: [], series: [], pictures: [], diagrams: [] },
  shows: { measured: true, slip: true },
  ...{ saved: [], handedIn: [], solutions: [], revealed: [], measured: [], hints: [], working: false, practice: [] },
  parts: [...parts],
  ...more,
});
