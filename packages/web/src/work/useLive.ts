import { type Answer, Problem, type Series, type Settings, type StudentPart } from '@nailset/core';
import { useMemo } from 'react';
import type { Live, Response } from '../kinds/kind';
import { prepared, settingsOf } from '../kinds/students';

/** The responses of a part with a ladder; while a number is being typed and is none, the last response stays. */
export function useLive(
  part: StudentPart,
  answer: Answer,
  /** Settings to fall back on, the best first, while the present ones cannot be used. */
  others: readonly Settings[],
  series: readonly Series[],
): Live | undefined {
  const ready = useMemo(() => {
    const ready = prepared(part, series);
    if (!ready || ready instanceof Problem) return ready;
    return { responses: ready.responses, show: remembering(ready.respond) };
  }, [part, series]);
  const settings = settingsOf(answer);
  if (!ready || !settings) return undefined;
  if (ready instanceof Problem) return { responses: undefined, response: undefined, problem: ready };
  return { responses: ready.responses, ...ready.show(settings, others) };
}

/** Responses with the last that there was, for settings that are numbers and yet not allowed. */
function remembering(respond: (settings: Settings) => Response | Problem) {
  let last: Response | undefined;
  const isUsable = (response: Response | Problem): response is Response => !(response instanceof Problem);
  return (settings: Settings, others: readonly Settings[]): Pick<Live, 'response' | 'problem'> => {
    const response = respond(settings);
    if (isUsable(response)) last = response;
    else last ??= others.map(respond).find(isUsable);
    return { response: last, problem: isUsable(response) ? undefined : response };
  };
}
