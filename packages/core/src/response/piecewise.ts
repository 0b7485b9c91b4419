import { Jets, type Motion } from './motion.js';

/** A stretch [from, to) on which a motion is the polynomial Σ powers[k]·((t − from)/(to − from))^k. */
export interface PolynomialPiece {
  readonly from: number;
  readonly to: number;
  readonly powers: Float64Array;
}

/** Whatever works out pieces ahead of time, as far as they are asked for. */
export interface PieceSource {
  /** Pieces that join and start at 0. */
  readonly pieces: readonly PolynomialPiece[];
  /** Works out pieces up to a time at least; it may refuse and leave fewer. */
  reach(time: number): void;
}

/** The index of the piece that holds a time; the last when it lies beyond. Method: bisection. */
export function pieceAt(pieces: readonly PolynomialPiece[], time: number): number {
  let low = 0;
  let high = pieces.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (pieces[middle]!.from <= time) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The polynomial of a piece at a time; beyond its ends it is continued. */
export function valueOf({ from, to, powers }: PolynomialPiece, time: number): number {
  const x = (time - from) / (to - from);
  let value = 0;
  for (let k = powers.length - 1; k >= 0; k--) value = value * x + powers[k]!;
  return value;
}

/** A motion of polynomial pieces, worked out as far as it is asked for. */
export class PiecewiseMotion implements Motion {
  private jets?: Jets;
  private ranges = new Float64Array(0);
  /** @param order which derivative of the pieces this is */
  constructor(
    private readonly source: PieceSource,
    private readonly order = 0,
    private readonly until = Infinity,
    readonly accuracy = 0,
  ) {}

  at(time: number): number {
    this.source.reach(Math.min(time, this.until));
    const { pieces } = this.source;
    const piece = pieces[pieceAt(pieces, time)];
    if (!piece) return 0;
    return this.order === 0 ? valueOf(piece, time) : derivativeOf(piece, time, this.order);
  }

  jet(time: number, into: Float64Array): void {
    this.jets ??= new Jets(this);
    this.jets.write(time, into);
  }

  derivative(): Motion {
    return new PiecewiseMotion(this.source, this.order + 1, this.until, this.accuracy);
  }

  /** A third of the piece: as a polynomial of moderate degree it has no more turns than that. */
  step(time: number): number {
    this.source.reach(Math.min(time * (1 + 1e-9), this.until));
    const { pieces } = this.source;
    const piece = pieces[pieceAt(pieces, time)];
    if (!piece) return 1;
    const { from, to } = piece;
    const inside = Math.floor(((time - from) / (to - from)) * 4 + 1e-9) + 1;
    return Math.max(from + ((to - from) * inside) / 4 - time, 1e-12 * to);
  }

  /** Range of the values still to come, as far as they are worked out. */
  remaining(time: number): number {
    const { pieces } = this.source;
    if (this.ranges.length !== pieces.length) this.ranges = rangesFrom(pieces);
    return this.ranges[pieceAt(pieces, time)] ?? 0;
  }

  get breaks(): number[] {
    return this.source.pieces.map(({ from }) => from);
  }
}

/** For each piece a bound of the range of the values from its start on. */
function rangesFrom(pieces: readonly PolynomialPiece[]): Float64Array<ArrayBuffer> {
  const ranges = new Float64Array(pieces.length);
  let [lowest, highest] = [Infinity, -Infinity];
  for (let k = pieces.length - 1; k >= 0; k--) {
    for (const value of hullOf(pieces[k]!.powers)) {
      lowest = Math.min(lowest, value);
      highest = Math.max(highest, value);
    }
    ranges[k] = highest - lowest;
  }
  return ranges;
}

/** Coefficients in Bernstein's basis, between which a polynomial stays on [0, 1]. Source: Farouki (2012), section 5.1. */
function hullOf(powers: Float64Array): Float64Array {
  const n = powers.length - 1;
  // c_k/(n over k), then running sums of running sums turn them into Bernstein's.
  const hull = new Float64Array(n + 1);
  let choose = 1;
  for (let k = 0; k <= n; k++) {
    hull[k] = powers[k]! / choose;
    choose = (choose * (n - k)) / (k + 1);
  }
  for (let round = 1; round <= n; round++) for (let k = n; k >= round; k--) hull[k]! += hull[k - 1]!;
  return hull;
}

function derivativeOf({ from, to, powers }: PolynomialPiece, time: number, order: number): number {
  const length = to - from;
  const x = (time - from) / length;
  let value = 0;
  for (let k = powers.length - 1; k >= order; k--) {
    let factor = powers[k]!;
    for (let i = 0; i < order; i++) factor *= k - i;
    value = value * x + factor;
  }
  return value / length ** order;
}
