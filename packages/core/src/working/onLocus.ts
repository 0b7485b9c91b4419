import { countEncirclements } from '../frequency/stability.js';
import { onDampingRay } from '../locus/dampingRay.js';
import { specialPoints, stationaryPoints } from '../locus/specialPoints.js';
import { stableGains } from '../locus/stableRanges.js';
import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { rationalToNumber } from '../rational/number.js';
import {
  add,
  coefficient,
  degree,
  derivative,
  isHurwitz,
  multiply,
  negate,
  type Polynomial,
} from '../rational/polynomial.js';
import type { Complex } from '../system/complex.js';
import { polynomialToLatex } from '../system/latex.js';
import type { Root } from '../system/roots.js';
import { type System, systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import { characteristicLatex, gainArray, rangeLatex, routhSteps } from './routh.js';
import {
  complexLatex,
  line,
  numeral,
  rootsLatex,
  signed,
  withUnitLatex,
  type Worked,
  type WorkingStep,
} from './step.js';

type Way = (loop: Fraction, numbers: readonly number[]) => Worked | null;

/** The way to what is read off the locus of 1 + K·L, or off the range of its gains; null for other functions. */
export function workedOnLocus(name: string, transfer: Transfer, numbers: readonly number[]): Worked | null {
  const plain = withDeadTime(transfer);
  if (!plain) return null;
  if (name === 'encirclements') return encirclements(lowestTerms(plain.fraction), rationalToNumber(plain.deadTime));
  if (plain.deadTime.numerator !== 0n) return null;
  return Object.hasOwn(ways, name) ? (ways[name]?.(lowestTerms(plain.fraction), numbers) ?? null) : null;
}

const count = (roots: readonly Root[]): number => roots.reduce((sum, { multiplicity }) => sum + multiplicity, 0);

/** Poles and zeros of the open loop. */
export function openLoopStep({ poles, zeros }: Pick<System, 'poles' | 'zeros'>): WorkingStep {
  const none = zeros.length === 0;
  return line(
    none ? 'The open loop has poles, no zeros:' : 'The open loop has poles and zeros:',
    `p=${rootsLatex(poles)}${none ? '' : `,\\quad z=${rootsLatex(zeros)}`}`,
  );
}

const ways: Record<string, Way> = {
  branches({ numerator, denominator }) {
    const [n, m] = [degree(denominator), degree(numerator)];
    const value = Math.max(n, m);
    return {
      steps: [line('There are as many branches as the loop has poles:', `n=${n},\\ m=${m}\\ \\Rightarrow\\ ${value}`)],
      value,
    };
  },
  centroid(loop) {
    const worked = centroidSteps(loop);
    return worked && { steps: worked.steps, value: worked.centroid };
  },
  asymptoteAngle(loop, [n = 1]) {
    const { asymptotes } = specialPoints(loop);
    const angles = [...(asymptotes?.anglesDegrees ?? [])].sort((a, b) => (a < 0 ? a + 360 : a) - (b < 0 ? b + 360 : b));
    const value = angles[n - 1];
    return value === undefined ? null : { steps: anglesSteps(loop), value };
  },
  breakPoint(loop, [n = 1]) {
    const point = onAxis(loop)[n - 1];
    return point ? { steps: breakSteps(loop), value: point.re } : null;
  },
  breakGain(loop, [n = 1]) {
    const point = onAxis(loop)[n - 1];
    if (!point) return null;
    const gain = gainStep(loop, { re: point.re, im: 0 });
    return { steps: [...breakSteps(loop), gain.step], value: gain.value };
  },
  crossingFrequency(loop, [n = 1]) {
    const crossing = specialPoints(loop).axisCrossings[n - 1];
    return crossing ? { steps: crossingSteps(loop), value: crossing.omega } : null;
  },
  crossingGain(loop, [n = 1]) {
    const crossing = specialPoints(loop).axisCrossings[n - 1];
    if (!crossing) return null;
    const gain = gainStep(loop, { re: 0, im: crossing.omega });
    return { steps: [...crossingSteps(loop), gain.step], value: gain.value };
  },
  departureAngle: (loop, [n = 1]) => angleAt(loop, 'departures', n),
  arrivalAngle: (loop, [n = 1]) => angleAt(loop, 'arrivals', n),
  lowestStableGain: (loop) => endOfRange(loop, 0),
  highestStableGain: (loop) => endOfRange(loop, 1),
  gainForDamping(loop, [zeta = 0]) {
    const points = onDampingRay(loop, zeta);
    const point = points.reduce(
      (least, each) => (each.gain < least.gain ? each : least),
      points[0] ?? { re: 0, im: 0, gain: NaN },
    );
    if (points.length === 0) return null;
    const wn = Math.hypot(point.re, point.im);
    const gain = gainStep(loop, point);
    return {
      steps: [
        openLoopStep(systemOf(loop)),
        line(
          'Poles with this damping lie on a ray:',
          `s=\\omega_n\\left(-\\zeta+j\\sqrt{1-\\zeta^2}\\right)=\\omega_n\\left(${numeral(-zeta)}${signed(Math.sqrt(1 - zeta * zeta)).replace(' ', '')}\\,j\\right)`,
        ),
        angleStep(loop, point),
        line(
          'So the ray meets the locus at',
          `\\omega_n=${withUnitLatex(wn, 'rad/s')},\\quad s_1=${complexLatex(point)}`,
        ),
        gain.step,
      ],
      value: gain.value,
    };
  },
  unstablePoles({ denominator, numerator }) {
    const { poles } = systemOf({ numerator, denominator });
    const right = poles.filter(({ re }) => re > 0);
    const value = count(right);
    return {
      steps: [
        line('The poles are the roots of the denominator:', `${polynomialToLatex(denominator)}=0`),
        line('They are', `s=${rootsLatex(poles)}`),
        line('Of these lie in the right half-plane:', `${value}`),
      ],
      value,
    };
  },
};

const onAxis = (loop: Fraction) =>
  specialPoints(loop)
    .breakPoints.filter(({ im }) => im === 0)
    .sort((a, b) => b.re - a.re);

/** Where the asymptotes meet; null without any. */
export function centroidSteps(loop: Fraction): { steps: WorkingStep[]; centroid: number } | null {
  const { poles, zeros } = systemOf(loop);
  const { asymptotes } = specialPoints(loop);
  if (!asymptotes) return null;
  const sum = (roots: readonly Root[]) => roots.reduce((total, { re, multiplicity }) => total + multiplicity * re, 0);
  const [n, m] = [count(poles), count(zeros)];
  const centroid = (sum(poles) - sum(zeros)) / (n - m);
  const latex = `\\sigma=\\frac{\\sum p-\\sum z}{n-m}=\\frac{${numeral(sum(poles))}${m === 0 ? '' : `-(${numeral(sum(zeros))})`}}{${n}-${m}}=${numeral(centroid)}`;
  return {
    steps: [openLoopStep({ poles, zeros }), line('The asymptotes meet in the centre of gravity:', latex)],
    centroid,
  };
}

/** The angles of the asymptotes. */
export function anglesSteps(loop: Fraction): WorkingStep[] {
  const { asymptotes } = specialPoints(loop);
  const { poles, zeros, gain } = systemOf(loop);
  if (!asymptotes) return [];
  const turn = gain > 0 ? '(2k+1)\\,180^\\circ' : 'k\\,360^\\circ';
  const [n, m] = [count(poles), count(zeros)];
  return [
    line(
      `Of ${n} branches ${m} end at zeros; the others leave along asymptotes with the angles`,
      `\\frac{${turn}}{n-m}=\\frac{${turn}}{${n - m}}:\\quad ${asymptotes.anglesDegrees.map((angle) => withUnitLatex(angle, '°')).join(',\\ ')}`,
    ),
  ];
}

/** K = −D/N. */
function gainLatex({ numerator, denominator }: Fraction): string {
  const [above, below] = [polynomialToLatex(denominator), polynomialToLatex(numerator)];
  return below === '1' ? `K=-\\left(${above}\\right)` : `K=-\\frac{${above}}{${below}}`;
}

/** Where the derivative of K vanishes, and which of these points lie on the locus. */
export function breakSteps(loop: Fraction): WorkingStep[] {
  const { numerator, denominator } = loop;
  const slope = add(multiply(derivative(denominator), numerator), negate(multiply(denominator, derivative(numerator))));
  const points = onAxis(loop);
  const kept =
    points.map(({ re, gain }) => `s=${numeral(re)}\\ (K=${numeral(gain)})`).join(',\\quad ') || '\\text{none}';
  return [
    line('On the locus K is', gainLatex(loop)),
    line('Branches meet where K is stationary, dK/ds = 0:', `D'N-DN'=${polynomialToLatex(slope)}=0`),
    line('Its roots:', `s=${rootsLatex(stationaryPoints(loop))}`),
    line('Of these, real and with K > 0 are', kept),
  ];
}

/** The characteristic equation on the imaginary axis, in two parts, and where both hold. */
export function crossingSteps(loop: Fraction): WorkingStep[] {
  const { axisCrossings } = specialPoints(loop);
  const list = axisCrossings
    .map(({ omega, gain }) => `\\omega=${numeral(omega)}\\ \\mathrm{rad/s}\\ (K=${numeral(gain)})`)
    .join(',\\quad ');
  return [
    line('The closed loop has its poles where', `${characteristicLatex(loop)}=0`),
    line('On the imaginary axis s = jω; the real part:', `${partLatex(loop, 0)}=0`),
    line('and the imaginary part, divided by ω:', `${partLatex(loop, 1)}=0`),
    line('Both hold with K > 0 at', list || '\\text{no }\\omega'),
  ];
}

/** Even powers of D(jω) + K·N(jω), or odd ones over jω: polynomials in ω with coefficients in K. */
function partLatex({ numerator, denominator }: Fraction, odd: 0 | 1): string {
  const order = Math.max(degree(numerator), degree(denominator));
  let text = '';
  for (let power = order; power >= 0; power--) {
    if (power % 2 !== odd) continue;
    const sign = Math.floor(power / 2) % 2 === 0 ? 1 : -1;
    const [d, n] = [denominator, numerator].map((p: Polynomial) => sign * rationalToNumber(coefficient(p, power))) as [
      number,
      number,
    ];
    const variable = power - odd === 0 ? '' : `\\omega^{${power - odd}}`;
    for (const [value, letter] of [
      [d, ''],
      [n, 'K'],
    ] as const) {
      if (value === 0) continue;
      const rest = [letter, variable].filter(Boolean).join('\\,');
      const size = Math.abs(value) === 1 && rest ? '' : numeral(Math.abs(value));
      const plus = value < 0 ? '-' : text ? '+' : '';
      text += `${plus}${[size, rest].filter(Boolean).join('\\,')}`;
    }
  }
  return text || '0';
}

/** The gain of a point on the locus: product of the distances to the poles over that to the zeros. */
export function gainStep(loop: Fraction, point: Complex): { step: WorkingStep; value: number } {
  const { poles, zeros, gain } = systemOf(loop);
  const far = (roots: readonly Root[]) =>
    roots.flatMap(({ re, im, multiplicity }) =>
      new Array<number>(multiplicity).fill(Math.hypot(point.re - re, point.im - im)),
    );
  const [above, below] = [far(poles), [...(Math.abs(gain) === 1 ? [] : [Math.abs(gain)]), ...far(zeros)]];
  const value = above.reduce((a, b) => a * b, 1) / below.reduce((a, b) => a * b, 1);
  const times = (values: readonly number[]) => values.map(numeral).join('\\cdot ') || '1';
  const fraction = below.length === 0 ? times(above) : `\\frac{${times(above)}}{${times(below)}}`;
  return {
    step: line(
      'The magnitude condition gives its gain, distances to the poles over those to the zeros:',
      `K=\\frac{1}{|L(s)|}=${fraction}=${numeral(value)}`,
    ),
    value,
  };
}

const degreesTo = ({ re, im }: Root, point: Complex): number =>
  (180 / Math.PI) * Math.atan2(point.im - im, point.re - re);

const expanded = (roots: readonly Root[]): Root[] =>
  roots.flatMap((root) => new Array<Root>(root.multiplicity).fill(root));

/** The sum of the angles from zeros and poles to a point: ±180° on the locus. */
export function angleStep(loop: Fraction, point: Complex): WorkingStep {
  const { poles, zeros, gain } = systemOf(loop);
  const terms = [
    ...expanded(zeros).map((root) => degreesTo(root, point)),
    ...expanded(poles).map((root) => -degreesTo(root, point)),
  ];
  const sum = terms.reduce((a, b) => a + b, 0);
  const written = terms.map((term, k) => `${term >= 0 && k > 0 ? '+' : ''}${withUnitLatex(term, '°')}`).join('');
  const wanted = gain > 0 ? 'an odd multiple of 180°' : 'a multiple of 360°';
  return line(
    `The angle condition: zeros less poles give ${wanted}.`,
    `${written || '0^\\circ'}${terms.length > 1 ? `=${withUnitLatex(Number(sum.toFixed(6)), '°')}` : ''}`,
  );
}

function angleAt(loop: Fraction, which: 'departures' | 'arrivals', n: number): Worked | null {
  const point = specialPoints(loop)[which].filter(({ im }) => im > 0)[n - 1];
  if (!point) return null;
  const { poles, zeros, gain } = systemOf(loop);
  const leaves = which === 'departures';
  const others = (roots: readonly Root[]) =>
    expanded(roots.filter(({ re, im }) => re !== point.re || im !== point.im)).map((root) => degreesTo(root, point));
  const sum = (angles: readonly number[]) => angles.reduce((a, b) => a + b, 0);
  const [fromZeros, fromPoles] = [others(zeros), others(poles)];
  const turn = gain > 0 ? 180 : 0;
  const raw = leaves ? turn + sum(fromZeros) - sum(fromPoles) : turn - sum(fromZeros) + sum(fromPoles);
  const value = wrapped(raw);
  const [first, second] = leaves ? [fromZeros, fromPoles] : [fromPoles, fromZeros];
  const bracket = (angles: readonly number[]) =>
    angles.length === 0
      ? '0^\\circ'
      : `(${angles.map((angle, k) => `${angle >= 0 && k > 0 ? '+' : ''}${withUnitLatex(angle, '°')}`).join('')})`;
  const back = Math.abs(raw - value) < 1e-9 ? '' : `${withUnitLatex(raw, '°')}\\to `;
  return {
    steps: [
      openLoopStep({ poles, zeros }),
      line(
        leaves
          ? `The branch leaves the pole ${plainPoint(point)} in the angle that the others leave over, zeros less poles:`
          : `The branch comes to the zero ${plainPoint(point)} from the angle that the others leave over, poles less zeros:`,
        `\\varphi=${turn}^\\circ+${bracket(first)}-${bracket(second)}=${back}${withUnitLatex(value, '°')}`,
      ),
    ],
    value,
  };
}

const plainPoint = ({ re, im }: Complex): string =>
  `${String(Number(re.toPrecision(4))).replace('-', '−')} + ${String(Number(im.toPrecision(4)))}j`;

/** Into (−180, 180]. */
function wrapped(degrees: number): number {
  const turned = ((((degrees + 180) % 360) + 360) % 360) - 180;
  return turned <= -180 + 1e-9 ? turned + 360 : turned;
}

/** The way to all stable gains of a loop, dead time in seconds included. */
export function rangeSteps(
  loop: Fraction,
  deadTime: number,
  ranges: readonly (readonly [number, number])[],
): WorkingStep[] {
  const said = ranges.map(rangeLatex).join('\\quad\\text{or}\\quad ') || '\\text{no gain}';
  if (deadTime !== 0) {
    return [line('The loop is stable up to the gain at which |K·L| is 1 where its phase is −180°:', said)];
  }
  const array = gainArray(loop);
  const steps = routhSteps(loop, array);
  if (array) return [...steps, line('So the loop is stable for', said)];
  return [...steps, ...crossingSteps(loop).slice(1), line('Between crossings nothing changes; stable is', said)];
}

function endOfRange(loop: Fraction, end: 0 | 1): Worked | null {
  const [range, second] = stableGains(loop);
  if (!range || second) return null;
  const wanted = range[end];
  const array = gainArray(loop);
  // The number comes from the array, not from the search that decides answers.
  const value = array && Number.isFinite(wanted) && wanted > 0 ? nearest(array.candidates, wanted) : wanted;
  return {
    steps: [
      ...rangeSteps(loop, 0, [range]),
      line(end === 1 ? 'The highest of these gains:' : 'The lowest of these gains:', `K=${numeral(value)}`),
    ],
    value,
  };
}

const nearest = (values: readonly number[], wanted: number): number =>
  values.reduce((best, each) => (Math.abs(each - wanted) < Math.abs(best - wanted) ? each : best), values[0] ?? NaN);

function encirclements(loop: Fraction, deadTime: number): Worked | null {
  const counted = countEncirclements(loop, deadTime).encirclements;
  if (counted === null) return null;
  const open = count(systemOf(loop).poles.filter(({ re }) => re > 0));
  if (deadTime !== 0) {
    return {
      steps: [
        line('Unstable poles of the open loop:', `P=${open}`),
        line('Followed over all ω, L(jω) goes round −1 clockwise', `N=${counted}`),
      ],
      value: counted,
    };
  }
  const characteristic = add(loop.numerator, loop.denominator);
  const closed = isHurwitz(characteristic)
    ? 0
    : count(
        systemOf({ numerator: { integers: [1n], denominator: 1n }, denominator: characteristic }).poles.filter(
          ({ re }) => re > 0,
        ),
      );
  return {
    steps: [
      line('Poles of the open loop in the right half-plane:', `P=${open}`),
      line('The closed loop has its poles where', `${polynomialToLatex(characteristic)}=0`),
      line('Of these lie in the right half-plane:', `Z=${closed}`),
      line(
        'The principle of the argument counts the turns round −1, clockwise:',
        `N=Z-P=${closed}-${open}=${closed - open}`,
      ),
    ],
    value: closed - open,
  };
}
