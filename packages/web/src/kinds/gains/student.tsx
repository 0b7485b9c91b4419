import { openGains } from '@nailset/core';
import { type LoopResponse, type LoopResponses, loopResponses, tryResponse } from '../../loop/loopResponse';
import { sameSettings } from '../../loop/settings';
import { areNamedTexts } from '../../shared/stored';
import type { Ladder, StudentKind } from '../kind';
import { readableSettings, ShownSettings, startOfKnobs } from '../settings';
import { GainsBench } from './GainsBench';
import { knobsOfGains } from './knobs';

const ladder: Ladder<'gains'> = {
  names: ({ controller }) => openGains(controller).map(({ name }) => name),
  knobs: knobsOfGains,
  settings: ({ gains: settings }) => settings,
  answer: (settings) => ({ kind: 'gains', gains: settings }),
  prepare(part, series) {
    // Everything of a student’s loop comes with its numbers.
    const responses = loopResponses(part, { names: new Map() }, series);
    return { responses, respond: (settings) => tryResponse(responses, settings) };
  },
};

export const gains: StudentKind<'gains'> = {
  Bench: ({ part, work, dispatch, live, keys }) =>
    live?.response && (
      <GainsBench
        {...{ part, work, dispatch, keys }}
        responses={live.responses as LoopResponses}
        response={live.response as LoopResponse}
      />
    ),
  Shown: ({ part, answer }) => <ShownSettings names={ladder.names(part)} settings={ladder.settings(answer)} />,
  blank: (part) => ladder.answer(startOfKnobs(ladder.knobs(part))),
  readable: (part, answer) => readableSettings(ladder.knobs(part), answer.gains),
  isStored: ({ gains: kept }) => areNamedTexts(kept),
  isSame: (left, right) => sameSettings(left.gains, right.gains),
  ladder,
  isFormula: false,
  isProjected: false,
  isSmall: () => false,
  entersByKey: false,
  symbols: [],
};
