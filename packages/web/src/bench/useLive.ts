import { type Answer, Problem, type Series, type Settings, type StudentPart, attempt } from '@nailset/core';
import { useMemo } from 'react';
import { type CurveResponse, curveResponses } from './curveResponse';
import { type LoopResponse, type LoopResponses, loopResponses, tryResponse } from './loopResponse';
import { type TermsResponse, termsResponses } from './terms';
import { settingsOf } from './work';

/** What a bench with a ladder shows right now; `response` is of the present settings or of the last that could be read. */
export type Live = { readonly problem: Problem | undefined } & (
  | { readonly kind: 'gains'; readonly responses: LoopResponses; readonly response: LoopResponse | undefined }
  | {
      readonly kind: 'curve';
      readonly responses: ReturnType<typeof curveResponses>;
      readonly response: CurveResponse | undefined;
    }
  | {
      readonly kind: 'bode';
      readonly responses: ReturnType<typeof termsResponses>;
      readonly response: TermsResponse | undefined;
    }
  | { readonly kind: 'none'; readonly response: undefined }
);

/** The responses of a part with a ladder; while a number is being typed and is none, the last response stays. */
export function useLive(
  part: StudentPart,
  answer: Answer,
  /** Settings to fall back on, the best first, while the present ones cannot be used. */
  others: readonly Settings[],
  series: readonly Series[],
): Live | undefined {
  const prepared = useMemo(() => {
    return attempt(() => {
      if (part.kind === 'gains') {
        const responses = loopResponses(part, noNames, series);
        return { kind: 'gains' as const, responses, ...remembering((settings) => tryResponse(responses, settings)) };
      }
      if (part.kind === 'curve') {
        const responses = curveResponses(part, series);
        return { kind: 'curve' as const, responses, ...remembering(responses) };
      }
      if (part.kind === 'bode') {
        const responses = termsResponses(part);
        return { kind: 'bode' as const, responses, ...remembering(responses) };
      }
      return undefined;
    });
  }, [part, series]);
  const settings = settingsOf(answer);
  if (!prepared || !settings) return undefined;
  if (prepared instanceof Problem) return { kind: 'none', response: undefined, problem: prepared };
  const { response, problem } = prepared.show(settings, others);
  // The kind of the prepared responses is that of what they give.
  return { kind: prepared.kind, responses: prepared.responses, response, problem } as Live;
}

/** Responses with the last that there was, for settings that are numbers and yet not allowed. */
function remembering<Of>(of: (settings: Settings) => Of | Problem) {
  let last: Of | undefined;
  const isUsable = (found: Of | Problem): found is Of => !(found instanceof Problem);
  return {
    show(settings: Settings, others: readonly Settings[]): { response: Of | undefined; problem: Problem | undefined } {
      const found = of(settings);
      if (isUsable(found)) last = found;
      else last ??= others.map(of).find(isUsable);
      return { response: last, problem: isUsable(found) ? undefined : found };
    },
  };
}

/** Everything of a student’s loop comes with its numbers. */
const noNames = { names: new Map() };
