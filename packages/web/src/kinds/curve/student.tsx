import { inputLine } from '@nailset/core';
import { sameSettings } from '../../loop/settings';
import { areNamedTexts } from '../../shared/stored';
import type { Ladder, StudentKind } from '../kind';
import { readableSettings, ShownSettings, startOfKnobs } from '../settings';
import { CurveBench } from './CurveBench';
import { type CurveResponse, curveResponses } from './curveResponse';
import { knobsOfCurve } from './knobs';

const ladder: Ladder<'curve'> = {
  names: ({ knobs }) => knobs.map(({ symbol }) => symbol),
  knobs: knobsOfCurve,
  settings: ({ knobs }) => knobs,
  answer: (settings) => ({ kind: 'curve', knobs: settings }),
  prepare(part, series) {
    const responses = curveResponses(part, series);
    return { responses, respond: responses };
  },
};

export const curve: StudentKind<'curve'> = {
  Bench: ({ part, work, dispatch, live, keys, bench }) =>
    live?.response && (
      <CurveBench
        {...{ part, work, dispatch, keys }}
        reference={inputLine(part.input, bench.series, part.horizon)}
        responses={live.responses as ReturnType<typeof curveResponses>}
        response={live.response as CurveResponse}
      />
    ),
  Shown: ({ part, answer }) => <ShownSettings names={ladder.names(part)} settings={ladder.settings(answer)} />,
  blank: (part) => ladder.answer(startOfKnobs(ladder.knobs(part))),
  readable: (part, answer) => readableSettings(ladder.knobs(part), answer.knobs),
  isStored: ({ knobs }) => areNamedTexts(knobs),
  isSame: (left, right) => sameSettings(left.knobs, right.knobs),
  ladder,
  isFormula: false,
  isProjected: true,
  isSmall: () => false,
  entersByKey: false,
  symbols: [],
};
