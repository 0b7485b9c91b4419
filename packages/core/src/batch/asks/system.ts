import { Problem } from '../../expression/problem.js';
import { rationalToNumber } from '../../rational/number.js';
import { polynomialFromNumbers, polynomialFromRoots } from '../../system/forms.js';
import { fractionOfStates, placePoles, statesOf, stateSpaceOf, structureOf } from '../../system/stateSpace.js';
import { hiddenModes, systemOf } from '../../system/system.js';
import { asDelayedFraction, withoutDeadTime } from '../../system/transfer.js';
import type { Ask } from '../ask.js';
import { statesIn, transferIn } from '../systems.js';

/** Asks about poles and state space; documented in docs/compute.md. */
export const systemAsks: readonly Ask[] = [
  {
    name: 'poles',
    answer(query) {
      const { fraction, deadTime } = asDelayedFraction(transferIn(query), 'A list of poles');
      const { gain, zeros, poles, stable, dcGain } = systemOf(fraction);
      const hidden = hiddenModes(fraction);
      // What was written down counts, whether the response shows it or not.
      return { gain, zeros, poles, stable: stable && hidden.every(({ re }) => re < 0), dcGain, deadTime, hidden };
    },
  },
  {
    name: 'stateSpace',
    answer(query) {
      const form = query.choice('form', ['controllable', 'observable', 'modal'], 'controllable');
      return statesOf(withoutDeadTime(transferIn(query), 'State space'), form);
    },
  },
  {
    name: 'structure',
    answer(query) {
      const fields = query.object('system');
      const states = statesIn(fields);
      fields.finish();
      const several = (states.d[0]?.length ?? 0) > 1 || states.d.length > 1;
      const hidden = several ? [] : hiddenModes(fractionOfStates(states));
      return { ...structureOf(states), hidden };
    },
  },
  {
    name: 'placePoles',
    answer(query) {
      const fields = query.object('system');
      const [a, b] = [fields.matrix('a'), fields.matrix('b')];
      fields.value('c');
      fields.value('d');
      fields.finish();
      if (a.length === 0) throw new Problem('matrix', 'There is no state.');
      const states = stateSpaceOf({ a, b, c: [a.map(() => 0)], d: [(b[0] ?? []).map(() => 0)] });
      const wanted = query.has('polynomial')
        ? polynomialFromNumbers(query.numbers('polynomial', 60), '“polynomial”')
        : polynomialFromRoots(query.points('poles'), 'poles');
      const gains = placePoles(states, wanted);
      return { gains: gains.map(rationalToNumber) };
    },
  },
];
