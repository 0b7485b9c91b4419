import * as byHand from '../../server/src/demo/exercises/byHand';
import * as design from '../../server/src/demo/exercises/design';
import * as diagrams from '../../server/src/demo/exercises/diagrams';
import { lockGate } from '../../server/src/demo/exercises/lockGate';
import * as measured from '../../server/src/demo/exercises/measured';
import { ferryRamp } from '../../server/src/demo/exercises/ramp';
import { lampTurntable, twoTables } from '../../server/src/demo/exercises/secondOrder';
import { tideGauge } from '../../server/src/demo/exercises/tideGauge';
import { craneTrolley } from '../../server/src/demo/exercises/trolley';
import { cableWinch, winchSensor } from '../../server/src/demo/exercises/winch';
import type { ExerciseDocument } from '../src/index';

const modules: readonly object[] = [diagrams, design, byHand, measured];

/** Every exercise of the demo course. */
export const demoExercises: readonly ExerciseDocument[] = [
  lampTurntable,
  craneTrolley,
  twoTables,
  ferryRamp,
  winchSensor,
  tideGauge,
  lockGate,
  cableWinch,
  ...modules.flatMap((module) => Object.values(module) as ExerciseDocument[]),
];
