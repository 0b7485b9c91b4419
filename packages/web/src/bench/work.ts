import { type Answer, type Bench, type Gain, type StudentPart, type Trail, gainsOfForm } from '@nailset/core';

/** What a student has on the bench: one answer and one trail per part, the open part and the chosen gain. */
export interface Work {
  readonly open: string;
  readonly chosen: Gain;
  readonly answers: Readonly<Record<string, Answer>>;
  readonly trails: Readonly<Record<string, Trail>>;
  /** Per part the last gains that were all numbers; they stay on the plot while another is being typed. */
  readonly readable: Readonly<Record<string, Gains>>;
  /** Counts changes that are worth saving. */
  readonly changes: number;
}

export type Gains = Extract<Answer, { kind: 'gains' }>['gains'];

export type WorkAction =
  | { do: 'open'; part: string }
  | { do: 'choose'; gain: Gain }
  | { do: 'type'; part: string; text: string }
  | { do: 'setGain'; part: string; gain: Gain; text: string }
  | { do: 'nudge'; part: string; gain: Gain; by: number }
  | { do: 'stop'; part: string; holding: number }
  | { do: 'restore'; part: string; index: number };

const longestTrail = 200;

/**
 * The work as it was saved, or a fresh start for parts that were never touched. Work that was on the bench before a new
 * version came is carried over where the part still asks for the same.
 */
export function workFrom(bench: Pick<Bench, 'parts' | 'saved' | 'handedIn'>, before?: Work): Work {
  const answers: Record<string, Answer> = {};
  const trails: Record<string, Trail> = {};
  const readable: Record<string, Gains> = {};
  for (const part of bench.parts) {
    const saved = bench.saved.find(({ partId, answer }) => partId === part.id && answer.kind === part.kind);
    const last = bench.handedIn.findLast(({ partId, answer }) => partId === part.id && answer.kind === part.kind);
    const carried = before?.answers[part.id];
    const fits = carried?.kind === part.kind;
    answers[part.id] = fits ? carried : (saved?.answer ?? last?.answer ?? blank(part));
    const start = [answers[part.id]!, blank(part)].find(isReadable);
    if (start?.kind === 'gains') readable[part.id] = start.gains;
    trails[part.id] = (fits ? before?.trails[part.id] : saved?.trail) ?? [];
  }
  const next = bench.parts.find(
    (part) => !bench.handedIn.some((entry) => entry.partId === part.id && entry.verdict?.met),
  );
  const open = bench.parts.find(({ id }) => id === before?.open) ?? next ?? bench.parts[0]!;
  return { open: open.id, chosen: 'Kp', answers, trails, readable, changes: before ? 1 : 0 };
}

/** The answer with which a part starts. */
export function blank(part: StudentPart): Answer {
  if (part.kind !== 'gains') return { kind: part.kind, text: '' };
  const start = gainsOfForm[part.form].map((gain) => [gain, String(part.start[gain] ?? 0)] as const);
  return { kind: 'gains', gains: { Kp: '0', ...Object.fromEntries(start) } };
}

export function workReducer(work: Work, action: WorkAction): Work {
  switch (action.do) {
    case 'open':
      return { ...work, open: action.part, chosen: 'Kp' };
    case 'choose':
      return { ...work, chosen: action.gain };
    case 'type': {
      const answer = work.answers[action.part];
      if (!answer || answer.kind === 'gains' || answer.text === action.text) return work;
      return changed(work, action.part, { ...answer, text: action.text });
    }
    case 'setGain':
      return withGain(work, action.part, action.gain, action.text);
    case 'nudge': {
      const answer = work.answers[action.part];
      if (answer?.kind !== 'gains') return work;
      return withGain(work, action.part, action.gain, addDecimal(answer.gains[action.gain] ?? '0', action.by));
    }
    case 'stop': {
      const answer = work.answers[action.part];
      const trail = work.trails[action.part] ?? [];
      if (answer?.kind !== 'gains' || sameGains(answer.gains, trail[trail.length - 1]?.gains)) return work;
      const longer = [...trail, { gains: answer.gains, holding: action.holding }].slice(-longestTrail);
      return { ...work, trails: { ...work.trails, [action.part]: longer }, changes: work.changes + 1 };
    }
    case 'restore': {
      const stop = work.trails[action.part]?.[action.index];
      return stop ? changed(work, action.part, { kind: 'gains', gains: stop.gains }) : work;
    }
  }
}

function withGain(work: Work, part: string, gain: Gain, text: string): Work {
  const answer = work.answers[part];
  if (answer?.kind !== 'gains') return work;
  if (answer.gains[gain] === text) return { ...work, chosen: gain };
  return { ...changed(work, part, { kind: 'gains', gains: { ...answer.gains, [gain]: text } }), chosen: gain };
}

function changed(work: Work, part: string, answer: Answer): Work {
  const readable =
    answer.kind === 'gains' && isReadable(answer) ? { ...work.readable, [part]: answer.gains } : work.readable;
  return { ...work, answers: { ...work.answers, [part]: answer }, readable, changes: work.changes + 1 };
}

/** Whether every gain is a number by now. */
function isReadable(answer: Answer): boolean {
  return answer.kind === 'gains' && Object.values(answer.gains).every((text) => isDecimal(text));
}

/** Whether a text is a number as the ladder takes it. */
export const isDecimal = (text: string): boolean => /^\s*[+\-−]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?\s*$/i.test(text);

/** The sum as a short decimal: 0.1 + 0.2 is 0.3. What is not a number counts as zero. */
export function addDecimal(text: string, by: number): string {
  const value = Number(text.replace('−', '-'));
  return String(Number(((Number.isFinite(value) ? value : 0) + by).toPrecision(12)));
}

export function sameGains(left: Gains | undefined, right: Gains | undefined): boolean {
  if (!left || !right) return false;
  return (['Kp', 'Ki', 'Kd'] as const).every((gain) => Number(left[gain] ?? 0) === Number(right[gain] ?? 0));
}

/** Whether two answers would be checked alike. */
export function sameAnswer(left: Answer, right: Answer): boolean {
  if (left.kind === 'gains' && right.kind === 'gains') return sameGains(left.gains, right.gains);
  if (left.kind === 'gains' || right.kind === 'gains') return false;
  return left.text.replace(/\s/g, '') === right.text.replace(/\s/g, '');
}
