import type { Problem } from '@nailset/core';
import {
  type Answer,
  type Kind,
  orProblem,
  type Part,
  type Scope,
  type Series,
  type Settings,
  type StudentPart,
} from '@nailset/core';
import type { Knob } from '../loop/knob';
import { bode } from './bode/student';
import { choice } from './choice/student';
import { curve } from './curve/student';
import { diagram } from './diagram/student';
import { gains } from './gains/student';
import type { Prepared, Readable, StudentKind } from './kind';
import { number } from './number/student';
import { paths } from './paths/student';
import { points } from './points/student';
import { range } from './range/student';
import { reduction } from './reduction/student';
import { states } from './states/student';
import { transferFunction } from './transferFunction/student';
import { trend } from './trend/student';

const kinds: { [K in Kind]: StudentKind<K> } = {
  transferFunction,
  number,
  gains,
  choice,
  trend,
  curve,
  diagram,
  reduction,
  paths,
  states,
  points,
  bode,
  range,
};

/**
 * The kind of a part or answer. Part and answer of one call are of the same kind, as workers and routes make sure; the
 * compiler cannot follow that.
 */
export const studentKind = ({ kind }: { readonly kind: Kind }) => kinds[kind] as unknown as StudentKind<Kind>;

/** What the student of a part sets, in the order of its ladder; none for parts that are typed or chosen. */
export const knobsOf = (part: StudentPart): Knob[] => studentKind(part).ladder?.knobs(part) ?? [];

/** The names of what the student of a part sets. */
export const settingNamesOf = (part: Part): readonly string[] => studentKind(part).ladder?.names(part) ?? [];

/** The numbers of an answer that has a ladder. */
export const settingsOf = (answer: Answer): Settings | undefined => studentKind(answer).ladder?.settings(answer);

/** The answer with other settings; as it is where it has none. */
export const withSettings = (answer: Answer, settings: Settings): Answer =>
  studentKind(answer).ladder?.answer(settings) ?? answer;

/** The answer with which a part starts. */
export const blank = (part: StudentPart): Answer => studentKind(part).blank(part);

/** Whether something that a browser kept is an answer of one of the kinds that there are now. */
export const isStoredAnswer = (kept: Readonly<Record<string, unknown>>): boolean => {
  const { kind } = kept;
  return typeof kind === 'string' && Object.hasOwn(kinds, kind) && kinds[kind as Kind].isStored(kept);
};

/** Whether two answers would be checked alike. */
export const sameAnswer = (left: Answer, right: Answer): boolean =>
  left.kind === right.kind && studentKind(left).isSame(left, right);

/** How an answer reads before it is handed in. */
export const readableAnswer = (part: StudentPart, answer: Answer, scope: Scope): Readable =>
  studentKind(part).readable(part, answer, scope);

/** A part with a ladder, ready to respond; undefined for one without, a Problem for one that cannot be drawn. */
export function prepared(part: StudentPart, series: readonly Series[]): Prepared | Problem | undefined {
  const { ladder } = studentKind(part);
  return ladder ? orProblem(() => ladder.prepare(part, series)) : undefined;
}

/** Whether the expected answer to a part is LaTeX. */
export const isFormula = (part: { readonly kind: Kind }): boolean => studentKind(part).isFormula;
