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
    const found = prepared(part, series);
    if (!found || found instanceof Problem) return found;
    return { responses: found.responses, show: remembering(found.respond) };
  }, [part, series]);
  const settings = settingsOf(answer);
  if (!ready || !settings) return undefined;
  if (ready instanceof Problem) return { responses: undefined, response: undefined, problem: ready };
  return { responses: ready.responses, ...ready.show(settings, others) };
}

/** Responses with the last that there was, for settings that are numbers and yet not allowed. */
function remembering(respond: (settings: Settings) => Response | Problem) {
  let last: Response | undefined;
  const isUsable = (found: Response | Problem): found is Response => !(found instanceof Problem);
  return (settings: Settings, others: readonly Settings[]): Pick<Live, 'response' | 'problem'> => {
    const found = respond(settings);
    if (isUsable(found)) last = found;
    else last ??= others.map(respond).find(isUsable);
    return { response: last, problem: isUsable(found) ? undefined : found };
  };
}
