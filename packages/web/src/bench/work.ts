import {
  type Answer,
  type Bench,
  type Settings,
  type StudentPart,
  type Trail,
  type Trend,
  decimalIn,
  isStopOf,
  numberIn,
} from '@nailset/core';
import { type Knob, knobsOf } from './knobs';
import { type HeldRatios, leadsAndLagsOf, withRatiosHeld } from './ratios';

/** What a student has on the bench: one answer and one trail per part, the open part and the chosen knob. */
export interface Work {
  readonly open: string;
  readonly chosen: string;
  readonly answers: Readonly<Record<string, Answer>>;
  readonly trails: Readonly<Record<string, Trail>>;
  /** Per part the last settings that were all numbers; they stay on the plot while another is being typed. */
  readonly readable: Readonly<Record<string, Settings>>;
  /** Per part the leads and lags that move as one. */
  readonly held?: Readonly<Record<string, HeldRatios>>;
  /** Counts changes that are worth saving. */
  readonly changes: number;
}

export type WorkAction =
  | { do: 'open'; part: string }
  | { do: 'choose'; knob: string }
  | { do: 'type'; part: string; text: string }
  | { do: 'answer'; part: string; answer: Answer }
  | { do: 'set'; part: string; knob: string; text: string }
  | { do: 'setAll'; part: string; settings: Settings }
  | { do: 'holdRatio'; part: string; pair: string }
  | { do: 'nudge'; part: string; knob: Knob; by: number }
  | { do: 'pick'; part: string; option: string; several: boolean }
  | { do: 'fill'; part: string; cell: string; trend: Trend }
  | { do: 'stop'; part: string; holding: number }
  | { do: 'restore'; part: string; index: number }
  | { do: 'name'; part: string; index: number; name: string }
  | { do: 'pin'; part: string; index: number }
  | { do: 'adopt'; part: string; answer: Answer; trail: Trail }
  | { do: 'follow'; bench: Pick<Bench, 'parts' | 'saved' | 'handedIn'> };

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
    const start = [answers[part.id]!, blank(part)].map(settingsOf).find(areDecimals);
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
  const open = bench.parts.find(({ id }) => id === before?.open) ?? next ?? bench.parts[0]!;
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

/** The answer with which a part starts. */
export function blank(part: StudentPart): Answer {
  const start = Object.fromEntries(
    knobsOf(part).flatMap(({ name, start: value, optional }) => (optional ? [] : [[name, String(value)]])),
  ) as Settings;
  switch (part.kind) {
    case 'gains':
      return { kind: 'gains', gains: start };
    case 'curve':
      return { kind: 'curve', knobs: start };
    case 'bode':
      return { kind: 'bode', terms: start };
    case 'choice':
      return { kind: 'choice', chosen: [] };
    case 'trend':
      return { kind: 'trend', cells: {} };
    case 'diagram':
      return { kind: 'diagram', texts: {} };
    case 'reduction':
      return { kind: 'reduction', steps: [] };
    case 'states':
      return { kind: 'states', a: '', b: '', c: '', d: '' };
    default:
      return { kind: part.kind, text: '' };
  }
}

/** An answer with the settings that this part has, no more and no fewer, whichever version it was begun under. */
function fitting(part: StudentPart, answer: Answer): Answer {
  const settings = settingsOf(answer);
  const start = settingsOf(blank(part));
  if (!settings || !start) return answer;
  const own = knobsOf(part).flatMap(({ name }) => {
    const text = settings[name] ?? start[name];
    return text === undefined ? [] : [[name, text] as const];
  });
  return withSettings(answer, Object.fromEntries(own));
}

/** The numbers of an answer that has a ladder. */
export function settingsOf(answer: Answer): Settings | undefined {
  if (answer.kind === 'gains') return answer.gains;
  if (answer.kind === 'bode') return answer.terms;
  return answer.kind === 'curve' ? answer.knobs : undefined;
}

function withSettings(answer: Answer, settings: Settings): Answer {
  if (answer.kind === 'gains') return { kind: 'gains', gains: settings };
  if (answer.kind === 'bode') return { kind: 'bode', terms: settings };
  return answer.kind === 'curve' ? { kind: 'curve', knobs: settings } : answer;
}

export function workReducer(work: Work, action: WorkAction): Work {
  switch (action.do) {
    case 'open':
      return { ...work, open: action.part, chosen: '' };
    case 'choose':
      return { ...work, chosen: action.knob };
    case 'type': {
      const answer = work.answers[action.part];
      if (!answer || !('text' in answer) || answer.text === action.text) return work;
      return changed(work, action.part, { ...answer, text: action.text });
    }
    case 'answer':
      return work.answers[action.part]?.kind === action.answer.kind ? changed(work, action.part, action.answer) : work;
    case 'set':
      return withSetting(work, action.part, action.knob, action.text);
    case 'setAll': {
      const answer = work.answers[action.part];
      return answer ? changed(work, action.part, withSettings(answer, action.settings)) : work;
    }
    case 'holdRatio': {
      const settings = settingsOf(work.answers[action.part]!);
      const found = settings && leadsAndLagsOf(settings).find(({ pair }) => pair === action.pair);
      const { [action.pair]: was, ...others } = work.held?.[action.part] ?? {};
      const now = was === undefined && found ? { ...others, [action.pair]: found.ratio } : others;
      return { ...work, held: { ...work.held, [action.part]: now } };
    }
    case 'nudge': {
      const settings = settingsOf(work.answers[action.part]!);
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
      const settings = settingsOf(work.answers[action.part]!);
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
    case 'follow':
      return { ...workFrom(action.bench, work), chosen: work.chosen, ...(work.held ? { held: work.held } : {}) };
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
  const [before, after] = [settingsOf(work.answers[part]!), settingsOf(wanted)];
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

/** Whether a text is a number as the ladder takes it. */
export const isDecimal = (text: string): boolean => decimalIn(text) !== undefined;

/** The sum as a short decimal: 0.1 + 0.2 is 0.3. What is not a number counts as zero. */
export function addDecimal(text: string, by: number): string {
  const value = numberIn(text);
  return String(Number(((Number.isFinite(value) ? value : 0) + by).toPrecision(12)));
}

const numberOr0 = (text: string | undefined): number => (text === undefined ? 0 : numberIn(text));

export function sameSettings(left: Settings | undefined, right: Settings | undefined): boolean {
  if (!left || !right) return false;
  const names = new Set([...Object.keys(left), ...Object.keys(right)]);
  // What is left out is not the same as a zero or pole at the origin.
  return [...names].every(
    (name) =>
      numberOr0(left[name]) === numberOr0(right[name]) && (!/^[zp]/.test(name) || name in left === name in right),
  );
}

/** Whether two answers would be checked alike. */
export function sameAnswer(left: Answer, right: Answer): boolean {
  if (left.kind !== right.kind) return false;
  const [a, b] = [settingsOf(left), settingsOf(right)];
  if (a && b) return sameSettings(a, b);
  if ('text' in left && 'text' in right) return left.text.replace(/\s/g, '') === right.text.replace(/\s/g, '');
  if (left.kind === 'choice' && right.kind === 'choice') {
    return left.chosen.length === right.chosen.length && left.chosen.every((id) => right.chosen.includes(id));
  }
  if (left.kind === 'trend' && right.kind === 'trend') {
    const cells = new Set([...Object.keys(left.cells), ...Object.keys(right.cells)]);
    return [...cells].every((cell) => left.cells[cell] === right.cells[cell]);
  }
  if (left.kind === 'diagram' && right.kind === 'diagram') {
    const ids = new Set([...Object.keys(left.texts), ...Object.keys(right.texts)]);
    const bare = (text = ''): string => text.replace(/\s/g, '');
    return [...ids].every((id) => bare(left.texts[id]) === bare(right.texts[id]));
  }
  return JSON.stringify(left) === JSON.stringify(right);
}
