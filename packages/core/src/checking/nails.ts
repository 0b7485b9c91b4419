import type { SignalName } from '../exercise/names.js';
import type { Part } from '../exercise/parts.js';
import type { CorridorNail, MeasureNail, Nail } from '../kinds/gains/part.js';
import type { InputName } from '../loop/controlLoop.js';
import { quantities } from '../quantity/index.js';
import type { Subject } from '../quantity/subject.js';
import type { Motion } from '../response/motion.js';
import { closeShare } from './close.js';
import { outsideBy } from './corridor.js';
import type { VerdictItem } from './verdict.js';
import { formatNumber, withUnit } from './words.js';

/** Measures are good to 1e-6; an answer that lies on the limit within that holds. */
const rounding = 1e-6;

/** A loop as nails look at it. */
export interface Measured {
  readonly stable: boolean;
  subject(signal: SignalName, input: InputName): Subject;
  /** The output as it is drawn, on the part's own input; null when there is none. */
  output(): Motion | null;
}

/** Every nail against one loop: measured, limit, met or missed, and the words for it. */
export function checkNails(nails: readonly Nail[], loop: Measured): VerdictItem[] {
  return nails.map((nail) => ('corridor' in nail ? checkCorridor(nail, loop) : checkMeasure(nail, loop)));
}

const signalWords: Record<SignalName, string> = { y: '', e: ' of the error', u: ' of the effort' };

/** The nails that a part drives in; none where its answer is judged as a whole. */
export const nailsIn = (part: Part): readonly Nail[] => ('nails' in part ? part.nails : []);

/** What a nail is called: the quantity, and the signal where it is not the output after a step of the reference. */
export function nailLabel(nail: Nail): string {
  if ('corridor' in nail) return 'Corridor';
  const { label, source } = quantities[nail.quantity];
  return label + (source === 'loop' || source === 'system' ? '' : whereOf(nail));
}

function whereOf({ signal = 'y', input = 'r', quantity }: MeasureNail): string {
  const ofError = quantities[quantity].source === 'error' && signal === 'e' ? '' : signalWords[signal];
  return `${ofError}${input === 'd' ? ', disturbance' : ''}`;
}

/** The signal that a quantity is read from unless the nail says otherwise. */
export const usualSignal = (nail: Pick<MeasureNail, 'quantity' | 'signal'>): SignalName =>
  nail.signal ?? (quantities[nail.quantity].source === 'error' ? 'e' : 'y');

function checkMeasure(nail: MeasureNail, loop: Measured): VerdictItem {
  const quantity = quantities[nail.quantity];
  const { unit } = quantity;
  const { id, relation, limit } = nail;
  const label = nailLabel(nail);
  const short = `${quantity.short}${quantity.source === 'response' || quantity.source === 'error' ? whereOf(nail) : ''}`;
  const subject = loop.subject(usualSignal(nail), nail.input ?? 'r');
  const value = loop.stable ? quantity.read(subject) : null;
  const infinite = value !== null && !Number.isFinite(value);
  const beyond = value === null ? Infinity : relation === 'atMost' ? value - limit : limit - value;
  const met = beyond <= rounding * Math.abs(limit);
  // A limit of 0 is met exactly or missed: nothing lies near it.
  const close = limit !== 0 && Number.isFinite(beyond) && Math.abs(beyond) <= closeShare * Math.abs(limit);
  const points = met ? nail.points : 0;
  const measured = infinite ? null : value;
  const item = {
    ...{ id, label, unit, measured, limit, relation, met, close, points, outOf: nail.points },
    ...(infinite ? { infinite: true as const } : {}),
  };
  const bound = relation === 'atMost' ? 'at most' : 'at least';
  if (value === null) {
    const why = !loop.stable ? 'the loop is unstable' : subject.stable ? 'the response has none' : 'it does not settle';
    return { ...item, words: `${short}: ${why}; asked for ${bound} ${withUnit(limit, unit)}.` };
  }
  if (infinite) {
    const words = `${short} ∞, limit ${withUnit(limit, unit)}: ${met ? 'holds' : 'grows without end'}.`;
    return { ...item, words };
  }
  const start = `${short} ${withUnit(value, unit)}, limit ${withUnit(limit, unit)}`;
  if (met) return { ...item, words: `${start}: holds${close ? ', just' : ''}.` };
  const by = relation === 'atMost' ? quantity.excess : quantity.lack;
  return { ...item, words: `${start}: ${formatNumber(shownDifference(value, limit) || beyond)} ${by}.` };
}

function checkCorridor({ id, corridor, points: outOf }: CorridorNail, loop: Measured): VerdictItem {
  const motion = loop.stable ? loop.output() : null;
  const outside = motion ? outsideBy(motion, corridor) : null;
  const height = heightOf(corridor);
  const met = outside !== null && outside.distance <= rounding * height;
  const close = outside !== null && Math.abs(outside.distance) <= closeShare * height;
  const item = {
    ...{ id, label: 'Corridor', unit: '', limit: 0, relation: 'atMost' as const },
    ...{ measured: outside ? Math.max(0, outside.distance) : null, met, close, points: met ? outOf : 0, outOf },
  };
  if (!outside) return { ...item, words: 'Corridor: the loop is unstable.' };
  if (met) return { ...item, words: `Corridor: stays inside${close ? ', just' : ''}.` };
  const way = outside.above ? 'above' : 'below';
  return {
    ...item,
    words: `Corridor: ${formatNumber(outside.distance)} ${way} it at ${withUnit(outside.time, 's')}.`,
  };
}

function heightOf(corridor: CorridorNail['corridor']): number {
  const values = corridor.flatMap(({ low, high }) => [low, high]).filter((value) => value !== null);
  return Math.max(...values) - Math.min(...values) || Math.abs(values[0] ?? 1);
}

/** The difference that a reader of the rounded value would work out. */
function shownDifference(measured: number, limit: number): number {
  const shown = Number(formatNumber(measured).replaceAll('−', '-'));
  return Number(Math.abs(shown - limit).toPrecision(6));
}
