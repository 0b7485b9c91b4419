import type { Problem } from '@nailset/core';
import type { Finding } from '@nailset/core/checks';

/** Every error that the server answers with: its status and what people read. One table. */
const table = {
  notSignedIn: [401, 'You are not signed in, or the session has ended. Sign in again; nothing is lost.'],
  wrongPassword: [401, 'E-mail and password do not match.'],
  weakPassword: [
    422,
    'This password is easy to guess: it is common, like your name or e-mail, or repeats itself. Three or four words that do not belong together make a good one.',
  ],
  usedLink: [404, 'This link has been used, or is too old. Ask for a new one.'],
  noMail: [404, 'This installation sends no mail. Ask your instructor for a link to set a new password.'],
  forbidden: [403, 'Your role in this course does not allow this.'],
  otherPerson: [
    409,
    'Someone else has signed in in this browser since this page was opened, so it sends nothing more. What was typed is kept here for the one who typed it.',
  ],
  wrongToken: [403, 'This page is too old to send anything. Reload it; what you typed is kept.'],
  notFound: [404, 'There is nothing here that you may see. Check the address or ask your instructor.'],
  unknownJoinCode: [404, 'No course has this code. Check it with your instructor.'],
  emailTaken: [409, 'This e-mail already has an account. Sign in instead.'],
  changedElsewhere: [409, 'This exercise was changed in another window. Reload to go on from there.'],
  answerChanged: [409, 'This answer was changed in another window.'],
  keyUsed: [409, 'This key belongs to another answer. Make a new one for this answer.'],
  putAway: [404, 'This exercise has been put away by its instructor.'],
  notYet: [404, 'This exercise is not open yet. It appears on your home page when it is.'],
  notTold: [403, 'The exercise does not tell this yet.'],
  archived: [409, 'This course is archived. Bring it back first; nothing was changed.'],
  alreadyDecided: [409, 'This correction has been applied or cancelled already.'],
  notChecked: [409, 'Not every answer has been checked again yet. Wait until all are.'],
  oldVersion: [
    409,
    'The exercise was changed since you opened it. Reload to see the new version; your answer is kept.',
  ],
  attemptsUsed: [409, 'All tries for this part are used. Your best one counts.'],
  lastInstructor: [409, 'A course keeps at least one instructor.'],
  pastDue: [409, 'The due date has passed. Your answer is kept as a draft but is not handed in.'],
  notPublished: [404, 'This exercise is not published yet.'],
  wrongCourseKey: [403, 'Only someone with the course key can start a course. ./nailset start shows it.'],
  badRequest: [400, 'The request is not as expected.'],
  tooLarge: [413, 'This is too large to be read.'],
  refused: [422, 'This cannot be read.'],
  notReady: [422, 'The exercise cannot be published yet.'],
  tooSlow: [503, 'This takes too long to work out. Tell your instructor; nothing was lost.'],
  tooMany: [429, 'Too many tries. Wait a moment and go on.'],
  unavailable: [503, 'The database is away for a moment. What was handed in is safe; try again.'],
  slow: [408, 'The request did not arrive in time. Try again.'],
  internal: [500, 'Something went wrong on our side. What was handed in is safe; try again.'],
} as const satisfies Record<string, readonly [number, string]>;

export type ErrorCode = keyof typeof table;

/** An error for people; `message` replaces the table's text where there is more to say. */
export class Refusal extends Error {
  readonly status: number;

  constructor(
    readonly code: ErrorCode,
    message?: string,
    readonly details: { at?: number; findings?: Finding[]; wait?: number } = {},
  ) {
    super(message ?? table[code][1]);
    this.status = table[code][0];
  }
}

/** A typed answer that cannot be read, as the core says it. */
export function refusalOf(problem: Problem): Refusal {
  return new Refusal('refused', problem.message, { at: problem.at });
}
