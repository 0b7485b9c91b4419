import { createHash } from 'node:crypto';
import type { ExerciseDocument } from '@nailset/core';
import { bollardArm, ferryFins, gangwayArm, pilotLift, tideSluice } from './exercises/byHand.js';
import { mooringWinch, radarMast, slewingCrane } from './exercises/design.js';
import { gateEquations, gaugeSteps, hoistLoops, lampLoop, rampLoops, winchDrive } from './exercises/diagrams.js';
import { lockGate } from './exercises/lockGate.js';
import { shakenBoom } from './exercises/measured.js';
import { ferryRamp } from './exercises/ramp.js';
import { lampTurntable, twoTables } from './exercises/secondOrder.js';
import { tideGauge } from './exercises/tideGauge.js';
import { craneTrolley } from './exercises/trolley.js';
import { cableWinch, winchSensor } from './exercises/winch.js';

/** The demo’s course: who is in it and what they work on. */

/**
 * The class: for each student the ways they went in every part, attempt after attempt (`>`); `-` for not handed in.
 * Columns: model, overshoot, peak, PD, PID.
 */
export const students: [name: string, ...ways: [string, string, string, string, string]][] = [
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

/** Published exercises, in how many days each is due, and whether students go the ways of the table there. */
export const published: readonly { document: ExerciseDocument; dueInDays: number; byTable?: true }[] = [
  { document: lampTurntable, dueInDays: 2, byTable: true },
  { document: craneTrolley, dueInDays: 4, byTable: true },
  { document: twoTables, dueInDays: 6 },
  { document: ferryRamp, dueInDays: 8 },
  { document: winchSensor, dueInDays: 11 },
  { document: tideGauge, dueInDays: 13 },
  { document: lockGate, dueInDays: 16 },
  { document: lampLoop, dueInDays: 18 },
  { document: hoistLoops, dueInDays: 20 },
  { document: rampLoops, dueInDays: 22 },
  { document: winchDrive, dueInDays: 25 },
  { document: gateEquations, dueInDays: 27 },
  { document: gaugeSteps, dueInDays: 29 },
  { document: slewingCrane, dueInDays: 31 },
  { document: mooringWinch, dueInDays: 33 },
  { document: radarMast, dueInDays: 35 },
  { document: gangwayArm, dueInDays: 37 },
  { document: ferryFins, dueInDays: 39 },
  { document: tideSluice, dueInDays: 41 },
  { document: pilotLift, dueInDays: 43 },
  { document: bollardArm, dueInDays: 45 },
  { document: shakenBoom, dueInDays: 47 },
];

/** Not published yet. */
export const drafts: readonly ExerciseDocument[] = [cableWinch];

/** Draws follow from exercise and student; ids of the demo’s own make it the same demo on every machine. */
export function idOf(name: string): string {
  const hash = createHash('sha256').update(`demo ${name}`).digest('hex');
  return [hash.slice(0, 8), hash.slice(8, 12), hash.slice(12, 16), hash.slice(16, 20), hash.slice(20, 32)].join('-');
}
