import {
  type ControlLoop,
  countEncirclements,
  formatNumber,
  type FrequencyFunction,
  frequencyFunction,
  lowestTerms,
  magnitudeAndPhase,
  type Margins,
  plotFrequencies,
  Problem,
  rationalToNumber,
  systemOf,
  withDeadTime,
  withUnit,
} from '@nailset/core';

/** The frequency response of an open loop, ready to draw. */
export interface FrequencyResponse {
  readonly exactly: FrequencyFunction;
  /** In lowest terms, without its dead time. */
  readonly system: ReturnType<typeof systemOf>;
  /** In rad/s, rising. */
  readonly omegas: Float64Array;
  readonly magnitudesDb: Float64Array;
  /** Continuous in ω. */
  readonly phasesDegrees: Float64Array;
  readonly margins: Margins;
  /** Straight lines from corner to corner; null where they cannot be drawn. */
  readonly asymptote: readonly { readonly omega: number; readonly db: number }[];
  /** What the encirclements say of the closed loop. */
  readonly count: string;
}

const points = 220;

/** @throws Problem `deadTime` for dead time inside the loop's own sums. */
export function frequencyOf(loop: ControlLoop): FrequencyResponse {
  const plain = withDeadTime(loop.open);
  if (!plain)
    throw new Problem('deadTime', 'Dead time inside a loop of the plant: its frequency response is not drawn.');
  const system = systemOf(lowestTerms(plain.fraction));
  const { margins } = loop;
  const marked = [...margins.gainMargins, ...margins.phaseMargins].map(({ omega }) => omega);
  const omegas = Float64Array.from([...plotFrequencies(system, points), ...marked]).sort();
  const exactly = frequencyFunction(loop.open);
  return {
    ...{ exactly, system, omegas, margins },
    ...magnitudeAndPhase(loop.open, omegas, exactly),
    asymptote: asymptoteOf(system, omegas[0]!, omegas.at(-1)!),
    count: countWords(countEncirclements(lowestTerms(plain.fraction), rationalToNumber(plain.deadTime))),
  };
}

/**
 * The same response with as many points between two frequencies, where these are much nearer to each other than its own
 * ends: what is looked at closely stays a curve.
 */
export function closeUp(
  whole: FrequencyResponse,
  { open }: ControlLoop,
  { from, to }: { readonly from: number; readonly to: number },
): Pick<FrequencyResponse, 'omegas' | 'magnitudesDb' | 'phasesDegrees'> {
  const [first = from, last = to] = [whole.omegas[0], whole.omegas.at(-1)];
  if (Math.log(to / from) > 0.7 * Math.log(last / first) && from >= first && to <= last) return whole;
  const omegas = plotFrequencies(whole.system, points, [from, to]);
  return { omegas, ...magnitudeAndPhase(open, omegas, whole.exactly) };
}

/** Straight lines of the magnitude: every factor is its low-frequency form below its corner, its high form above. */
function asymptoteOf(
  { gain, zeros, poles }: ReturnType<typeof systemOf>,
  from: number,
  to: number,
): FrequencyResponse['asymptote'] {
  const factors = [
    ...zeros.map(({ re, im, multiplicity }) => ({ corner: Math.hypot(re, im), power: multiplicity })),
    ...poles.map(({ re, im, multiplicity }) => ({ corner: Math.hypot(re, im), power: -multiplicity })),
  ];
  const at = (omega: number): number =>
    20 *
    (Math.log10(Math.abs(gain)) +
      factors.reduce((sum, { corner, power }) => sum + power * Math.log10(Math.max(omega, corner)), 0));
  const corners = factors.map(({ corner }) => corner).filter((corner) => corner > from && corner < to);
  return [...new Set([from, ...corners.sort((a, b) => a - b), to])].map((omega) => ({ omega, db: at(omega) }));
}

function countWords({
  openLoopUnstable,
  encirclements,
  closedLoopUnstable,
}: ReturnType<typeof countEncirclements>): string {
  if (encirclements === null || closedLoopUnstable === null) {
    return 'The curve runs through −1: the closed loop is marginally stable.';
  }
  const times = (n: number): string => (n === 0 ? 'not at all' : n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`);
  const way = encirclements === 0 ? '' : encirclements > 0 ? ' clockwise' : ' counter-clockwise';
  const open = openLoopUnstable === 0 ? 'no pole' : openLoopUnstable === 1 ? 'one pole' : `${openLoopUnstable} poles`;
  const closed =
    closedLoopUnstable === 0
      ? 'the closed loop is stable'
      : `the closed loop has ${closedLoopUnstable === 1 ? 'one pole' : `${closedLoopUnstable} poles`} in the right half-plane`;
  return `L goes round −1 ${times(Math.abs(encirclements))}${way} and has ${open} in the right half-plane: ${closed}.`;
}

/** A margin in words, as it stands beside its mark. */
export interface MarginMark {
  readonly kind: 'gain' | 'phase';
  readonly omega: number;
  readonly words: string;
  /** The one nearest to instability. */
  readonly decides: boolean;
}

/** All margins with their words; the smallest of each kind decides. */
export function marginMarks({ gainMargins, phaseMargins }: Margins, ratio: boolean): MarginMark[] {
  const leastGain = Math.min(...gainMargins.map(({ gain }) => Math.abs(Math.log(gain))));
  const leastPhase = Math.min(...phaseMargins.map(({ degrees }) => Math.abs(degrees)));
  return [
    ...gainMargins.map(({ omega, gain }) => ({
      ...{ kind: 'gain' as const, omega, decides: Math.abs(Math.log(gain)) === leastGain },
      words: ratio ? `× ${formatNumber(gain)}` : withUnit(20 * Math.log10(gain), 'dB'),
    })),
    ...phaseMargins.map(({ omega, degrees }) => ({
      ...{ kind: 'phase' as const, omega, decides: Math.abs(degrees) === leastPhase },
      words: withUnit(degrees, '°'),
    })),
  ];
}
