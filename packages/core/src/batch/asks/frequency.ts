import { Problem } from '../../expression/problem.js';
import { magnitudeAndPhase, plotFrequencies } from '../../frequency/bode.js';
import { marginsOf } from '../../frequency/margins.js';
import { bandwidthOf, closedLoopPeak, sensitivityPeak } from '../../frequency/peaks.js';
import { countEncirclements, isLoopStable } from '../../frequency/stability.js';
import { lowestTerms } from '../../rational/fraction.js';
import { hiddenModes, systemOf } from '../../system/system.js';
import { asDelayedFraction, unityFeedback } from '../../system/transfer.js';
import type { Ask } from '../ask.js';
import { transferIn } from '../systems.js';

/** Asks about frequency responses; documented in docs/compute.md. */
export const frequencyAsks: readonly Ask[] = [
  {
    name: 'frequency',
    answer(query) {
      const transfer = transferIn(query);
      if (!query.has('omegas')) {
        const omegas = plotFrequencies(systemOf(asDelayedFraction(transfer, 'A choice of frequencies').fraction));
        return { omegas, ...magnitudeAndPhase(transfer, omegas) };
      }
      const omegas = query.numbers('omegas');
      if (omegas.some((omega) => omega < 0)) throw new Problem('query', '“omegas” must not be negative.');
      return magnitudeAndPhase(transfer, omegas);
    },
  },
  { name: 'margins', answer: (query) => marginsOf(transferIn(query)) },
  {
    name: 'nyquist',
    answer(query) {
      const open = transferIn(query);
      const { fraction, deadTime } = asDelayedFraction(open, 'The encirclement count');
      const count = countEncirclements(lowestTerms(fraction), deadTime);
      const hidden = hiddenModes(fraction).reduce((sum, { re, multiplicity }) => sum + (re > 0 ? multiplicity : 0), 0);
      return {
        ...count,
        openLoopUnstable: count.openLoopUnstable + hidden,
        closedLoopUnstable: count.closedLoopUnstable === null ? null : count.closedLoopUnstable + hidden,
        closedLoopStable: isLoopStable(open),
      };
    },
  },
  {
    name: 'robustness',
    answer(query) {
      const open = transferIn(query);
      const closedLoopStable = isLoopStable(open);
      if (!closedLoopStable) {
        return { closedLoopStable, bandwidth: null, resonancePeak: null, sensitivityPeak: null };
      }
      return {
        closedLoopStable,
        bandwidth: bandwidthOf(unityFeedback(open)),
        resonancePeak: closedLoopPeak(open),
        sensitivityPeak: sensitivityPeak(open),
      };
    },
  },
];
