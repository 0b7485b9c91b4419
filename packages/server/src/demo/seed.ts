import { createHash, randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { type Answer, type ExerciseDocument, type Part, type Trail, type Verdict, modelOf } from '@nailset/core';
import { checkAnswer } from '@nailset/core/checks';
import type { Database } from '../store/database.js';
import { addExercise, changeExercise, drawFor, newestVersion, publishDraft } from '../store/exercises.js';
import { addCourse, addPerson, hashPassword } from '../store/people.js';
import { courses, memberships, people, submissions, verdicts } from '../store/schema.js';
import { lampAnswer, trolleyAnswer, usualAnswer } from './answers.js';
import { bollardArm, ferryFins, gangwayArm, pilotLift, tideSluice } from './exercises/byHand.js';
import { mooringWinch, radarMast, slewingCrane } from './exercises/design.js';
import { gateEquations, gaugeSteps, hoistLoops, lampLoop, rampLoops, winchDrive } from './exercises/diagrams.js';
import { shakenBoom } from './exercises/measured.js';
import { lockGate } from './exercises/lockGate.js';
import { ferryRamp } from './exercises/ramp.js';
import { lampTurntable, twoTables } from './exercises/secondOrder.js';
import { tideGauge } from './exercises/tideGauge.js';
import { craneTrolley } from './exercises/trolley.js';
import { cableWinch, winchSensor } from './exercises/winch.js';
import { demoAssistant, demoInstructor, demoPassword, emailOf } from './people.js';

/**
 * The class: for each student the ways they went in every part, attempt after attempt (`>`); `-` for not handed in.
 * Columns: model, overshoot, peak, PD, PID.
 */
const students: [name: string, ...ways: [string, string, string, string, string]][] = [
  ['Ilse Okafor', 'noTwo', '-', '-', 'fastOnly', '-'],
  ['Tomasz Berg', 'numbers', 'overshoot', 'peak', 'tuned', 'tuned'],
  ['Mireille Anand', 'symbols', 'overshoot', 'peak', 'tuned', 'tuned'],
  ['Kofi Lindqvist', 'noTwo>numbers', 'overshoot', 'peak', 'fastOnly>tuned', 'almost>tuned'],
  ['Yara Petrov', 'numbers', 'overshoot', 'peak', 'tuned', 'tuned'],
  ['Jonas Adeyemi', 'scaled', 'overshoot', 'peak', 'tuned', 'almost>tuned'],
  ['Linh Marchetti', 'numbers', 'overshootFraction>overshoot', 'peak', 'almost>tuned', 'swapped>tuned'],
  ['Sefa Duarte', 'noSquare>numbers', 'overshoot', 'peakUndamped', 'tuned', 'tuned'],
  ['Anouk Rahman', 'numbers', 'overshoot', 'peak', 'fastOnly>almost>tuned', 'noIntegral>tuned'],
  ['Piet Nakamura', 'unitNumerator', 'overshootFraction', 'peak', 'tuned', 'almost'],
  ['Zeynep Holm', 'noGain>symbols', 'overshoot', 'peakUndamped>peak', 'tuned', 'almost'],
  ['Ravi Castellan', 'numbers', 'overshootStraight', 'peakPeriod', 'slow>almost', 'slow'],
  ['Maud Eriksen', 'noTwo', 'overshoot', 'peak', 'fastOnly', 'fastOnly>almost'],
  ['Ngozi Weiss', 'scaled', 'overshoot', 'peakUndamped', 'almost', 'noIntegral'],
  ['Luca Tanaka', 'noSquare', 'overshootStraight>overshoot', 'peak', 'tuned', 'swapped'],
  ['Freya Mbeki', 'numbers', 'overshootFraction', 'peakUndamped', 'almost>tuned', 'noIntegral>almost'],
  ['Idris Novak', 'unitNumerator>noGain', 'overshootStraight', 'peak', 'slow', 'swapped'],
  ['Hana Verhoeven', 'symbols', 'overshoot', 'peak', 'tuned', 'tuned'],
  ['Oskar Mensah', 'numbers', 'overshoot', 'peakPeriod>peak', 'almost', 'fastOnly'],
  ['Pilar Johansen', 'noTwo>noSquare>numbers', 'overshoot', 'peak', 'tuned', 'almost>tuned'],
  ['Dmitri Osei', 'noGain', 'overshootStraight', 'peakUndamped', 'fastOnly', 'unstable'],
  ['Asha Moreau', 'unitNumerator', 'overshootFraction', 'peakPeriod', 'slow', 'unstable>slow'],
  ['Wim Karlsson', 'numbers', 'overshoot', '-', '-', '-'],
  ['Tove Baptiste', '-', '-', '-', '-', '-'],
];

const hour = 3_600_000;

/** Draws follow from exercise and student; ids of the demo’s own make it the same demo on every machine. */
function idOf(name: string): string {
  const hash = createHash('sha256').update(`demo ${name}`).digest('hex');
  return [hash.slice(0, 8), hash.slice(8, 12), hash.slice(12, 16), hash.slice(16, 20), hash.slice(20, 32)].join('-');
}

/** Builds the demo course once; an existing one is left alone. */
export async function seedDemo(database: Database): Promise<void> {
  const [existing] = await database.select().from(courses).where(eq(courses.demo, true));
  if (existing) return;
  const passwordHash = await hashPassword(demoPassword);
  const person = (name: string) => addPerson(database, { id: idOf(name), name, email: emailOf(name), passwordHash });
  const instructor = await person(demoInstructor);
  const courseId = await addCourse(database, { name: 'Harbour machinery', instructorId: instructor.id, demo: true });
  const assistant = await person(demoAssistant);
  await database.insert(memberships).values({ courseId, personId: assistant.id, role: 'assistant' });

  const lamp = await published(database, courseId, instructor.id, lampTurntable, 2);
  const trolley = await published(database, courseId, instructor.id, craneTrolley, 4);
  const others = [
    await published(database, courseId, instructor.id, twoTables, 6),
    await published(database, courseId, instructor.id, ferryRamp, 8),
    await published(database, courseId, instructor.id, winchSensor, 11),
    await published(database, courseId, instructor.id, tideGauge, 13),
    await published(database, courseId, instructor.id, lockGate, 16),
    await published(database, courseId, instructor.id, lampLoop, 18),
    await published(database, courseId, instructor.id, hoistLoops, 20),
    await published(database, courseId, instructor.id, rampLoops, 22),
    await published(database, courseId, instructor.id, winchDrive, 25),
    await published(database, courseId, instructor.id, gateEquations, 27),
    await published(database, courseId, instructor.id, gaugeSteps, 29),
    await published(database, courseId, instructor.id, slewingCrane, 31),
    await published(database, courseId, instructor.id, mooringWinch, 33),
    await published(database, courseId, instructor.id, radarMast, 35),
    await published(database, courseId, instructor.id, gangwayArm, 37),
    await published(database, courseId, instructor.id, ferryFins, 39),
    await published(database, courseId, instructor.id, tideSluice, 41),
    await published(database, courseId, instructor.id, pilotLift, 43),
    await published(database, courseId, instructor.id, bollardArm, 45),
    await published(database, courseId, instructor.id, shakenBoom, 47),
  ];
  await addExercise(database, courseId, cableWinch);

  for (const [index, [name, model, overshoot, peak, pd, pid]] of students.entries()) {
    const student = await person(name);
    await database
      .update(people)
      .set({ createdAt: new Date(Date.now() + index) })
      .where(eq(people.id, student.id));
    await database.insert(memberships).values({ courseId, personId: student.id, role: 'student' });
    const random = ((index * 7) % students.length) / students.length;
    await handInAll(database, lamp, student.id, { model, overshoot, peak }, random);
    await handInAll(database, trolley, student.id, { pd, pid }, random);
    // Ilse has the new exercises before her; the others are part of the way through them.
    if (index === 0) continue;
    for (const [k, exercise] of others.entries()) {
      if ((index + 3 * k) % (3 + k) !== 0) await handInUsual(database, exercise, student.id, (random + k / 7) % 1);
    }
  }
}

async function published(
  database: Database,
  courseId: string,
  instructorId: string,
  document: ExerciseDocument,
  dueInDays: number,
): Promise<string> {
  const id = await addExercise(database, courseId, document, idOf(document.title));
  // Examined by the tests, once; it would make every first start slow.
  await publishDraft(database, id, { revision: 1 }, instructorId, () => []);
  const due = new Date(Date.now() + dueInDays * 24 * hour);
  due.setHours(18, 0, 0, 0);
  await changeExercise(database, id, { dueAt: due });
  return id;
}

async function handInAll(
  database: Database,
  exerciseId: string,
  personId: string,
  ways: Record<string, string>,
  random: number,
): Promise<void> {
  const version = await newestVersion(database, exerciseId);
  const model = modelOf(version.document, await drawFor(database, version, personId));
  for (const [partIndex, part] of version.document.parts.entries()) {
    const trail: Trail = [];
    const attempts = ways[part.id]!.split('>').filter((way) => way !== '-');
    for (const [index, way] of attempts.entries()) {
      const answer = part.kind === 'gains' ? trolleyAnswer(way, part, model, random) : lampAnswer(way, model.values);
      const verdict = checkAnswer(part, model, answer);
      if (answer.kind === 'gains') {
        trail.push({ gains: answer.gains, holding: verdict.items.filter((item) => item.met).length });
      }
      const hoursAgo = 30 + 20 * random - 6 * partIndex - index;
      await record(database, version, personId, { part, answer, verdict, trail: [...trail], hoursAgo }, index + 1);
    }
  }
}

/** One answer to every part, right or usual. */
async function handInUsual(database: Database, exerciseId: string, personId: string, random: number): Promise<void> {
  const version = await newestVersion(database, exerciseId);
  const model = modelOf(version.document, await drawFor(database, version, personId));
  for (const [k, part] of version.document.parts.entries()) {
    if (part.kind === 'gains' && part.limits && random > 0.4) continue;
    const answer = usualAnswer(part, model, (random + k / 5) % 1, 0.6);
    const verdict = checkAnswer(part, model, answer);
    await record(database, version, personId, { part, answer, verdict, trail: [], hoursAgo: 20 + 20 * random - k }, 1);
  }
}

async function record(
  database: Database,
  version: Awaited<ReturnType<typeof newestVersion>>,
  personId: string,
  { part, answer, verdict, trail, hoursAgo }: HandedIn,
  attempt: number,
): Promise<void> {
  const handedInAt = new Date(Date.now() - hoursAgo * hour);
  const [added] = await database
    .insert(submissions)
    .values({
      exerciseId: version.exerciseId,
      versionId: version.id,
      personId,
      partId: part.id,
      attempt,
      key: randomUUID(),
      answer,
      trail,
      handedInAt,
    })
    .returning({ id: submissions.id });
  await database
    .insert(verdicts)
    .values({ submissionId: added!.id, result: verdict, points: verdict.points, checkedAt: handedInAt });
}

interface HandedIn {
  readonly part: Part;
  readonly answer: Answer;
  readonly verdict: Verdict;
  readonly trail: Trail;
  readonly hoursAgo: number;
}
