import type { FrequencyFunction } from '@nailset/core';
import { type Dispatch, type SetStateAction, useMemo } from 'react';
import { mostReadings } from '../plot/mostReadings';

/** What a system has at one frequency; the phase is the one of its Bode plot, continuous in ω. */
export interface LevelAndPhase {
  readonly db: number;
  readonly degrees: number;
}

/** Read exactly, whatever points a curve is drawn from. */
export const readAt = (response: FrequencyFunction, omega: number): LevelAndPhase => ({
  db: (20 / Math.LN10) * response.logMagnitude(omega),
  degrees: (180 / Math.PI) * response.phase(omega),
});

/** G(jω) as a point of the plane. */
export function pointOf({ db, degrees }: LevelAndPhase): { re: number; im: number } {
  const [size, angle] = [10 ** (db / 20), (degrees * Math.PI) / 180];
  return { re: size * Math.cos(angle), im: size * Math.sin(angle) };
}

/** The system that is read, and what it has at a frequency; undefined where it has nothing. */
export interface ReadSystem {
  readonly label: string;
  readonly at: (omega: number) => LevelAndPhase | undefined;
}

/** Frequencies in rad/s at which a system is read, on Bode and Nyquist alike. */
export interface FrequencyReadings {
  readonly omegas: readonly number[];
  readonly add: (omega: number) => void;
  readonly move: (from: number, to: number) => void;
  readonly remove: (omega: number) => void;
}

/** Readings that are kept in a state. */
export function useFrequencyReadings([omegas, set]: readonly [
  readonly number[],
  Dispatch<SetStateAction<readonly number[]>>,
]): FrequencyReadings {
  return useMemo(
    () => ({
      omegas,
      add: (omega) => set((old) => (old.includes(omega) ? old : [...old.slice(1 - mostReadings), omega])),
      move: (from, to) => set((old) => old.map((omega) => (omega === from ? to : omega))),
      remove: (omega) => set((old) => old.filter((each) => each !== omega)),
    }),
    [omegas, set],
  );
}
