import { formatNumber } from '@nailset/core';
import type { PlaneScale } from '../plane/LocusLayers';
import { useTimeUnit } from '../plot/timeUnit';
import { markAt, type Place, sliderProps } from '../plot/useDrag';
import type { BodeFrame, BodeScale } from './BodeAxes';
import { type FrequencyReadings, pointOf, type ReadSystem } from './readings';

/** The reading that a pointer takes: anywhere along its line. */
export const readingAt = ({ omegas }: FrequencyReadings, at: Place, { x }: BodeScale): number | undefined =>
  markAt(at, omegas, (omega) => ({ px: x(omega), py: at.py }));

/** Readings over a Bode plot, each a line with frequency, level and phase. */
export function BodeReadings({
  readings,
  system,
  scale,
  frame,
  ratio,
}: {
  readings: FrequencyReadings;
  system: ReadSystem;
  scale: BodeScale;
  frame: BodeFrame;
  ratio: boolean;
}) {
  const unit = useTimeUnit();
  const { x, db, phase, top, bottom, width, right } = scale;
  return readings.omegas.map((omega, k) => {
    const read = omega >= frame.from && omega <= frame.to ? system.at(omega) : undefined;
    if (!read) return null;
    const size = ratio ? formatNumber(10 ** (read.db / 20)) : `${formatNumber(read.db)} dB`;
    const leftward = x(omega) > width - right - 70;
    const text = { x: x(omega) + (leftward ? -7 : 7), textAnchor: leftward ? ('end' as const) : ('start' as const) };
    const level = Number.isFinite(read.db) ? db(read.db) : undefined;
    return (
      <g
        // Not by its frequency: it is the same reading, with the keys on it, while it moves.
        key={k}
        data-reading={system.label}
        className="cursor-ew-resize fill-plum outline-none [&:focus-visible>circle]:stroke-ink"
        {...sliderProps({
          ...{ label: 'Reading at a frequency', value: omega },
          words: `${system.label} at ${formatNumber(omega)} rad/${unit}: ${size}, ${formatNumber(read.degrees)}°`,
          onStep: ({ right: steps, up }) =>
            readings.move(omega, omega * (frame.to / frame.from) ** ((steps + up) / 200)),
          onRemove: () => readings.remove(omega),
        })}
      >
        <line x1={x(omega)} x2={x(omega)} y1={top} y2={bottom} className="stroke-plum/50" strokeDasharray="3 2" />
        {level !== undefined && <circle cx={x(omega)} cy={level} r="3.4" strokeWidth="2" className="stroke-sheet" />}
        <circle cx={x(omega)} cy={phase(read.degrees)} r="3.4" strokeWidth="2" className="stroke-sheet" />
        <g strokeWidth="3" className="stroke-sheet/85 [paint-order:stroke]">
          <text {...text} y={top + 12}>
            {formatNumber(omega)} rad/{unit}
          </text>
          <text {...text} y={(level ?? top + 33) - 7}>
            {size}
          </text>
          <text {...text} y={phase(read.degrees) - 7}>
            {formatNumber(read.degrees)}°
          </text>
        </g>
      </g>
    );
  });
}

/** The frequencies that are read on Bode, where the system has them in the plane. */
export function NyquistReadings({
  readings,
  system,
  scale: { x, y },
}: {
  readings: FrequencyReadings;
  system: ReadSystem;
  scale: PlaneScale;
}) {
  const unit = useTimeUnit();
  return readings.omegas.map((omega) => {
    const read = system.at(omega);
    if (!read || read.db === Infinity) return null;
    const { re, im } = pointOf(read);
    return (
      <g key={omega} data-reading={system.label} className="fill-plum">
        <circle cx={x(re)} cy={y(im)} r="3.4" strokeWidth="2" className="stroke-sheet" />
        <text x={x(re) + 7} y={y(im) + 14} strokeWidth="3" className="stroke-sheet/85 [paint-order:stroke]">
          {formatNumber(omega)} rad/{unit}
        </text>
      </g>
    );
  });
}
