import { formatNumber } from '@nailset/core';
import { scaleLinear, scaleLog } from 'd3-scale';
import { memo } from 'react';
import type { Axis, Ends } from '../plot/frame';
import { useTimeUnit } from '../plot/timeUnit';
import type { MarginMark } from './frequencyData';

/** Levels and phases over frequency. */
export interface BodeCurve {
  /** In rad/s, rising. */
  readonly omegas: ArrayLike<number>;
  readonly magnitudesDb: ArrayLike<number>;
  /** Continuous in ω. */
  readonly phasesDegrees: ArrayLike<number>;
}

/** What the axes show; it changes only when someone asks for it. */
export interface BodeFrame {
  /** In rad/s. */
  readonly from: number;
  readonly to: number;
  readonly dbLow: number;
  readonly dbHigh: number;
  readonly phaseLow: number;
  readonly phaseHigh: number;
}

export interface BodeUnits {
  readonly hertz: boolean;
  readonly ratio: boolean;
}

const turn = 2 * Math.PI;

/** A frame in which a response fits, ends on round numbers. */
export function bodeFrame({ omegas, magnitudesDb, phasesDegrees }: BodeCurve): BodeFrame {
  const finite = (values: ArrayLike<number>): number[] => Array.from(values).filter(Number.isFinite);
  const [db, phase] = [finite(magnitudesDb), finite(phasesDegrees)];
  return {
    from: omegas[0]!,
    to: omegas[omegas.length - 1]!,
    dbLow: Math.max(-100, 20 * Math.floor(Math.min(-20, ...db) / 20)),
    dbHigh: Math.min(120, 20 * Math.ceil(Math.max(20, ...db) / 20)),
    phaseLow: Math.max(-540, 45 * Math.floor((Math.min(-190, ...phase) - 5) / 45)),
    phaseHigh: 45 * Math.ceil((Math.max(0, ...phase) + 5) / 45),
  };
}

const frequencyUnit = ({ hertz }: BodeUnits, unit: string): string =>
  hertz ? (unit === 's' ? 'Hz' : `1/${unit}`) : `rad/${unit}`;

/** The ends of the axes in the units in which they are seen, to be typed. */
export function bodeEnds(frame: BodeFrame, units: BodeUnits, unit: string): Axis[] {
  const { from, to, dbLow, dbHigh, phaseLow, phaseHigh } = frame;
  const [per, size] = [units.hertz ? turn : 1, (db: number) => (units.ratio ? 10 ** (db / 20) : db)];
  return [
    { name: 'frequency', unit: frequencyUnit(units, unit), from: from / per, to: to / per, above: 1e-12 },
    {
      ...{ name: 'magnitude', unit: units.ratio ? '' : 'dB', from: size(dbLow), to: size(dbHigh) },
      ...(units.ratio ? { above: 1e-12 } : {}),
    },
    { name: 'phase', unit: '°', from: phaseLow, to: phaseHigh },
  ];
}

/** The frame with the ends of one axis, as they were typed. */
export function bodeWith(frame: BodeFrame, units: BodeUnits, axis: number, { from, to }: Ends): BodeFrame {
  if (axis === 2) return { ...frame, phaseLow: from, phaseHigh: to };
  const [per, db] = [units.hertz ? turn : 1, (size: number) => (units.ratio ? 20 * Math.log10(size) : size)];
  return axis === 0 ? { ...frame, from: from * per, to: to * per } : { ...frame, dbLow: db(from), dbHigh: db(to) };
}

/** From frequency, level and phase to the sheet; magnitude above phase. */
export function bodeScale(frame: BodeFrame, { hertz }: BodeUnits, width: number, height: number) {
  const [left, right, top, between, foot] = [54, 14, 8, 16, 24];
  const half = (height - top - between - foot) / 2;
  const [from, to] = [frame.from, frame.to].map((omega) => omega / (hertz ? turn : 1)) as [number, number];
  return {
    ...{ width, height, left, right, top, half },
    lower: top + half + between,
    bottom: height - foot,
    x: scaleLog()
      .domain([frame.from, frame.to])
      .range([left, Math.max(left + 10, width - right)]),
    db: scaleLinear()
      .domain([frame.dbLow, frame.dbHigh])
      .range([top + half, top]),
    phase: scaleLinear()
      .domain([frame.phaseLow, frame.phaseHigh])
      .range([height - foot, top + half + between]),
    powers: powersIn(from, to).map((value) => value * (hertz ? turn : 1)),
  };
}
export type BodeScale = ReturnType<typeof bodeScale>;

/** Lines and numbers of both axes. */
export const BodeAxes = memo(function BodeAxes({
  scale,
  frame,
  units,
}: {
  scale: BodeScale;
  frame: BodeFrame;
  units: BodeUnits;
}) {
  const { width, height, left, right, top, half, lower, bottom, x, db, phase, powers } = scale;
  const unit = useTimeUnit();
  return (
    <>
      {[top, lower].map((y) => (
        <rect key={y} x={left} y={y} width={Math.max(0, width - left - right)} height={half} className="fill-sheet" />
      ))}
      {powers.map((omega) => (
        <g key={omega}>
          <line x1={x(omega)} x2={x(omega)} y1={top} y2={bottom} className="stroke-grid" />
          {x(omega) < width - right - 44 && (
            <text x={x(omega)} y={height - 8} textAnchor="middle" className="fill-slate">
              {formatNumber(omega / (units.hertz ? turn : 1))}
            </text>
          )}
        </g>
      ))}
      <text x={width - right} y={height - 8} textAnchor="end" className="fill-slate">
        {frequencyUnit(units, unit)}
      </text>
      {db.ticks(5).map((value) => (
        <g key={value}>
          <line
            x1={left}
            x2={width - right}
            y1={db(value)}
            y2={db(value)}
            className={value === 0 ? 'stroke-ink' : 'stroke-grid'}
          />
          <text x={left - 6} y={db(value) + 4} textAnchor="end" className="fill-slate">
            {units.ratio ? formatNumber(Number((10 ** (value / 20)).toPrecision(2))) : `${formatNumber(value)} dB`}
          </text>
        </g>
      ))}
      {phaseTicks(frame).map((value) => (
        <g key={value}>
          <line
            x1={left}
            x2={width - right}
            y1={phase(value)}
            y2={phase(value)}
            className={value === -180 ? 'stroke-ink' : 'stroke-grid'}
          />
          <text x={left - 6} y={phase(value) + 4} textAnchor="end" className="fill-slate">
            {formatNumber(value)}°
          </text>
        </g>
      ))}
    </>
  );
});

/** Every margin as the distance that it is, the deciding ones bold. */
export function MarginMarks({
  marks,
  curve,
  scale,
  stable,
}: {
  marks: readonly MarginMark[];
  curve: BodeCurve;
  scale: BodeScale;
  stable: boolean;
}) {
  const { x, db, phase, left, right, width } = scale;
  return marks.map(({ kind, omega, words, decides }, k) => {
    const isGain = kind === 'gain';
    const y = isGain ? db(levelAt(curve, omega)) : phase(phaseAt(curve, omega));
    const zero = isGain ? db(0) : phase(phaseAt(curve, omega) - degreesOf(words));
    const isLeft = x(omega) > width - right - 52;
    const inside = x(omega) > left && x(omega) < width - right;
    return (
      inside && (
        <g key={k} data-margin={kind} className={stable ? 'fill-moss stroke-moss' : 'fill-brick stroke-brick'}>
          <line x1={x(omega)} x2={x(omega)} y1={y} y2={zero} strokeWidth={decides ? 2.4 : 1.2} />
          <circle cx={x(omega)} cy={y} r={decides ? 3.2 : 2.2} />
          <text
            x={x(omega) + (isLeft ? -6 : 6)}
            y={(y + zero) / 2 + 4}
            textAnchor={isLeft ? 'end' : 'start'}
            strokeWidth="3"
            className={`stroke-sheet/85 [paint-order:stroke] ${decides ? 'font-bold' : ''}`}
          >
            {words}
          </text>
        </g>
      )
    );
  });
}

const degreesOf = (words: string): number => Number(words.replace('−', '-').replace(/[^\d.e-]/g, '')) || 0;

/** The level of the curve as it is drawn. */
export const levelAt = ({ omegas, magnitudesDb }: BodeCurve, omega: number): number =>
  valueAt(omegas, magnitudesDb, omega);

/** The phase of the curve as it is drawn, continuous. */
const phaseAt = ({ omegas, phasesDegrees }: BodeCurve, omega: number): number => valueAt(omegas, phasesDegrees, omega);

function valueAt(omegas: ArrayLike<number>, values: ArrayLike<number>, omega: number): number {
  let [low, high] = [0, omegas.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (omegas[middle]! <= omega) low = middle;
    else high = middle;
  }
  const share = Math.log(omega / omegas[low]!) / (Math.log(omegas[high]! / omegas[low]!) || 1);
  return values[low]! + share * (values[high]! - values[low]!);
}

function powersIn(from: number, to: number): number[] {
  const first = Math.ceil(Math.log10(from) - 1e-9);
  const last = Math.floor(Math.log10(to) + 1e-9);
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, k) => Number(`1e${first + k}`));
}

function phaseTicks({ phaseLow, phaseHigh }: BodeFrame): number[] {
  const step = phaseHigh - phaseLow > 270 ? 90 : 45;
  const first = Math.ceil(phaseLow / step);
  return Array.from({ length: Math.floor(phaseHigh / step) - first + 1 }, (_, k) => (first + k) * step);
}
