import {
  checkNails,
  type Measures,
  type Nail,
  type Sheet,
  type SheetNail,
  TransferSubject,
  type VerdictItem,
} from '@nailset/core';
import { type Limit, limitsOf } from '../../plot/limits';
import type { Drawn } from './drawn';

const asNails = (nails: readonly SheetNail[]): Nail[] =>
  nails.map((nail) => ({ id: nail.quantity, points: 0, ...nail }));

/** Each nail against the unit step response of a system. */
export function nailItems({ transfer, facts }: Drawn, nails: readonly SheetNail[]): VerdictItem[] {
  if (nails.length === 0) return [];
  const { stable, measures } = facts;
  const subject = measures ? new MeasuredSubject(transfer, measures) : new TransferSubject(transfer);
  return checkNails(asNails(nails), { stable, subject: () => subject, output: () => null });
}

/** A system with the measures that the bench shows of it; those of a loop with limits are not its transfer's. */
class MeasuredSubject extends TransferSubject {
  constructor(
    transfer: Drawn['transfer'],
    private readonly shown: Measures,
  ) {
    super(transfer);
  }

  override get measures(): Measures {
    return this.shown;
  }
}

/** Where the nails stand on the plot: only beside responses to a step from 0 at once, which they speak of. */
export function nailLimits({ drives, nails, unit }: Sheet, chosen: Drawn | undefined, until: number): Limit[] {
  if (nails.length === 0) return [];
  const [drive] = drives;
  const measures = chosen?.facts.measures;
  if (!chosen || !measures || drives.length > 1 || drive?.kind !== 'step' || drive.from !== 0 || drive.at !== 0)
    return [];
  const { finalValue } = measures;
  const scaled = { ...measures, finalValue: finalValue === null ? null : finalValue * drive.to };
  const levels = asNails(nails).filter(
    (nail) => !('quantity' in nail) || nail.quantity !== 'peakValue' || drive.to === 1,
  );
  return limitsOf(levels, nailItems(chosen, nails), scaled, 0, until, {
    height: drive.to,
    timeUnit: unit,
  });
}
