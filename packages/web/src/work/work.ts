import { type Answer, type Bench, isStopOf, must, type Settings, type StudentPart, type Trail } from '@nailset/core';
import { blank, knobsOf, settingsOf, withSettings } from '../kinds/students';
import type { Work, WorkAction } from '../loop/action';
import { leadsAndLagsOf, withRatiosHeld } from '../loop/ratios';
import { addDecimal, isDecimal, sameSettings } from '../loop/settings';

const longestTrail = 200;

/**
 * The work as it was saved, or a fresh start for parts that were never touched. Work that was on the bench before a new
 * version came is carried over where the part still asks for the same.
 */
export function workFrom(bench: Pick<Bench, 'parts' | 'saved' | 'handedIn'>, before?: Work): Work {
  const answers: Record<string, Answer> = {};
  const trails: Record<string, Trail> = {};
  const readable: Record<string, Settings> = {};
  for (const part of bench.parts) {
    const saved = bench.saved.find(({ partId, answer }) => partId === part.id && answer.kind === part.kind);
    const last = bench.handedIn.findLast(({ partId, answer }) => partId === part.id && answer.kind === part.kind);
    const carried = before?.answers[part.id];
    const fits = carried?.kind === part.kind;
    answers[part.id] = fitting(part, fits ? carried : (saved?.answer ?? last?.answer ?? blank(part)));
    const start = [must(answers[part.id]), blank(part)].map(settingsOf).find(areDecimals);
    if (start) readable[part.id] = start;
    const names = knobsOf(part).map(({ name }) => name);
    const trail = (fits ? before?.trails[part.id] : saved?.trail) ?? [];
    trails[part.id] = trail.every((stop) => isStopOf(names, stop))
      ? trail
      : trail.filter((stop) => isStopOf(names, stop));
  }
  const next = bench.parts.find(
    (part) => !bench.handedIn.some((entry) => entry.partId === part.id && entry.verdict?.met),
  );
  const open = bench.parts.find(({ id }) => id === before?.open) ?? next ?? must(bench.parts[0]);
  const chosen = knobsOf(open)[0]?.name ?? '';
  return { open: open.id, chosen, answers, trails, readable, changes: before ? 1 : 0 };
}

/** Settings that a part can be drawn with while the present ones cannot: the last that were numbers, stops, the start. */
export const fallbacks = (work: Work, part: StudentPart): Settings[] =>
  [
    work.readable[part.id],
    ...(work.trails[part.id] ?? []).map(({ gains }) => gains).reverse(),
    settingsOf(blank(part)),
  ].filter((settings) => settings !== undefined);

/** An answer with the settings that this part has, no more and no fewer, whichever version it was begun under. */
function fitting(part: StudentPart, answer: Answer): Answer {
  const settings = settingsOf(answer);
  const start = settingsOf(blank(part));
  if (!settings || !start) return answer;
  const kept = knobsOf(part).flatMap(({ name }) => {
    const text = settings[name] ?? start[name];
    return text === undefined ? [] : [[name, text] as const];
  });
  return withSettings(answer, Object.fromEntries(kept));
}

export function workReducer(work: Work, action: WorkAction): Work {
  switch (action.do) {
    case 'open':
      return { ...work, open: action.part, chosen: '' };
    case 'choose':
      return { ...work, chosen: action.knob };
    case 'answer': {
      const before = work.answers[action.part];
      const { answer } = action;
      if (before?.kind !== answer.kind) return work;
      // A drag that ends where it was is no change.
      return 'text' in before && 'text' in answer && before.text === answer.text
        ? work
        : changed(work, action.part, answer);
    }
    case 'set':
      return withSetting(work, action.part, action.knob, action.text);
    case 'setAll': {
      const answer = work.answers[action.part];
      return answer ? changed(work, action.part, withSettings(answer, action.settings)) : work;
    }
    case 'holdRatio': {
      const settings = settingsOf(must(work.answers[action.part]));
      const compensator = settings && leadsAndLagsOf(settings).find(({ pair }) => pair === action.pair);
      const { [action.pair]: was, ...others } = work.held?.[action.part] ?? {};
      const now = was === undefined && compensator ? { ...others, [action.pair]: compensator.ratio } : others;
      return { ...work, held: { ...work.held, [action.part]: now } };
    }
    case 'nudge': {
      const settings = settingsOf(must(work.answers[action.part]));
      if (!settings) return work;
      const { name, low = -Infinity, high = Infinity } = action.knob;
      const next = addDecimal(settings[name] ?? '0', action.by);
      const within = Math.min(high, Math.max(low, Number(next)));
      return withSetting(work, action.part, name, String(within));
    }
    case 'pick': {
      const answer = work.answers[action.part];
      if (answer?.kind !== 'choice') return work;
      const { chosen } = answer;
      const others = chosen.filter((id) => id !== action.option);
      const next = !action.several
        ? [action.option]
        : others.length < chosen.length
          ? others
          : [...chosen, action.option];
      return changed(work, action.part, { kind: 'choice', chosen: next });
    }
    case 'fill': {
      const answer = work.answers[action.part];
      if (answer?.kind !== 'trend') return work;
      const cells = { ...answer.cells, [action.cell]: action.trend };
      return changed(work, action.part, { kind: 'trend', cells });
    }
    case 'stop': {
      const settings = settingsOf(must(work.answers[action.part]));
      const trail = work.trails[action.part] ?? [];
      if (!areDecimals(settings) || sameSettings(settings, trail[trail.length - 1]?.gains)) return work;
      return withTrail(work, action.part, [...trail, { gains: settings, holding: action.holding }]);
    }
    case 'restore': {
      const stop = work.trails[action.part]?.[action.index];
      const answer = work.answers[action.part];
      return stop && answer ? changed(work, action.part, withSettings(answer, stop.gains)) : work;
    }
    case 'adopt': {
      const { answers, trails } = work;
      const { part, answer, trail } = action;
      const settings = settingsOf(answer);
      const readable = areDecimals(settings) ? { ...work.readable, [part]: settings } : work.readable;
      return { ...work, readable, answers: { ...answers, [part]: answer }, trails: { ...trails, [part]: trail } };
    }
    case 'name':
      return withStop(work, action.part, action.index, ({ name: _old, ...stop }) =>
        action.name.trim() ? { ...stop, name: action.name.slice(0, 30) } : stop,
      );
    case 'pin':
      return withStop(work, action.part, action.index, ({ pinned, ...stop }) =>
        pinned ? stop : { ...stop, pinned: true },
      );
  }
}

function withStop(work: Work, part: string, index: number, change: (stop: Trail[number]) => Trail[number]): Work {
  const trail = work.trails[part];
  if (!trail?.[index]) return work;
  return withTrail(
    work,
    part,
    trail.map((stop, k) => (k === index ? change(stop) : stop)),
  );
}

/** The oldest stops that are neither pinned nor named give way. */
function withTrail(work: Work, part: string, trail: Trail): Work {
  const kept = [...trail];
  while (kept.length > longestTrail) {
    const at = kept.findIndex(({ pinned, name }) => !pinned && !name);
    kept.splice(Math.max(0, at), 1);
  }
  return { ...work, trails: { ...work.trails, [part]: kept }, changes: work.changes + 1 };
}

function withSetting(work: Work, part: string, knob: string, text: string): Work {
  const answer = work.answers[part];
  const settings = answer && settingsOf(answer);
  if (!settings) return work;
  if (settings[knob] === text) return { ...work, chosen: knob };
  return { ...changed(work, part, withSettings(answer, { ...settings, [knob]: text })), chosen: knob };
}

function changed(work: Work, part: string, wanted: Answer): Work {
  const [before, after] = [settingsOf(must(work.answers[part])), settingsOf(wanted)];
  const ratios = work.held?.[part];
  const followed = before && after && ratios ? withRatiosHeld(before, after, ratios) : undefined;
  const answer = followed ? withSettings(wanted, followed.settings) : wanted;
  const held = followed ? { ...work.held, [part]: followed.held } : work.held;
  const settings = settingsOf(answer);
  const readable = settings && areDecimals(settings) ? { ...work.readable, [part]: settings } : work.readable;
  return {
    ...work,
    ...(held ? { held } : {}),
    answers: { ...work.answers, [part]: answer },
    readable,
    changes: work.changes + 1,
  };
}

/** Whether every setting is a number by now. */
function areDecimals(settings: Settings | undefined): settings is Settings {
  return settings !== undefined && Object.values(settings).every(isDecimal);
}
