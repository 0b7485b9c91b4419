import { type BodeFrame, bodeFrame } from '../../frequency/BodeAxes';
import type { BodeOfPart } from './terms';

/** Around the given points, with room below them. */
export function frameOfBode({ target: { omegas, magnitudesDb, phasesDegrees = [0] } }: BodeOfPart): BodeFrame {
  return bodeFrame({ omegas, magnitudesDb, phasesDegrees });
}
