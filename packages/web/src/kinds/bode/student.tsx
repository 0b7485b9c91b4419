import { settingsOfTerms } from '@nailset/core';
import { sameSettings } from '../../loop/settings';
import { later } from '../../shared/later';
import { areNamedTexts } from '../../shared/stored';
import type { Ladder, StudentKind } from '../kind';
import { ShownSettings, startOfKnobs } from '../settings';
import { readableWhen } from '../typed';
import { knobsOfTerms, type TermsResponse, termsResponses } from './terms';

const [BodeBench, bringBench] = later(() => import('./BodeBench'));

const ladder: Ladder<'bode'> = {
  names: settingsOfTerms,
  knobs: (part) => knobsOfTerms(part),
  settings: ({ terms }) => terms,
  answer: (settings) => ({ kind: 'bode', terms: settings }),
  prepare(part) {
    const responses = termsResponses(part);
    return { responses, respond: responses };
  },
};

export const bode: StudentKind<'bode'> = {
  Bench: ({ part, work, dispatch, live, keys }) =>
    live?.response && (
      <BodeBench
        {...{ part, work, dispatch, keys }}
        responses={live.responses as ReturnType<typeof termsResponses>}
        response={live.response as TermsResponse}
      />
    ),
  Shown: ({ part, answer }) => <ShownSettings names={ladder.names(part)} settings={ladder.settings(answer)} />,
  bring: bringBench,
  blank: (part) => ladder.answer(startOfKnobs(ladder.knobs(part))),
  readable: () => readableWhen(false),
  isStored: ({ terms }) => areNamedTexts(terms),
  isSame: (left, right) => sameSettings(left.terms, right.terms),
  ladder,
  isFormula: false,
  isProjected: true,
  isSmall: () => false,
  entersByKey: false,
  symbols: [],
};
