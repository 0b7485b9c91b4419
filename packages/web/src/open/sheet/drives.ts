import { type DriveKind, formatNumber, isOverTime, type Sheet, type SheetDrive } from '@nailset/core';

export const driveNames: Record<DriveKind, string> = {
  step: 'step',
  ramp: 'ramp',
  impulse: 'impulse',
  parabola: 'parabola',
  sine: 'sine',
  typed: 'function of t',
  data: 'measured table',
  none: 'nothing',
};

/** A drive of another kind, with what it has in common with the one before. */
export function driveOfKind(kind: DriveKind, before: SheetDrive, { data }: Pick<Sheet, 'data'>): SheetDrive {
  const at = 'at' in before ? before.at : 0;
  const size = 'size' in before ? before.size : before.kind === 'step' ? before.to - before.from : 1;
  switch (kind) {
    case 'step':
      return { kind, from: 0, to: size, at };
    case 'sine':
      return { kind, size, omega: 1, at };
    case 'typed':
      return { kind, text: 't*step(3 - t)' };
    case 'data':
      return { kind, name: data.find(isOverTime)?.name ?? '' };
    case 'none':
      return { kind };
    default:
      return { kind, size, at };
  }
}

/** What a drive is called in a title. */
export function driveWords(drive: SheetDrive): string {
  switch (drive.kind) {
    case 'step':
      if (drive.from !== 0) return `a step from ${formatNumber(drive.from)} to ${formatNumber(drive.to)}`;
      return drive.to === 1 ? 'a unit step' : `a step of ${formatNumber(drive.to)}`;
    case 'sine':
      return `a sine at ${formatNumber(drive.omega)} rad/s`;
    case 'typed':
      return 'a function of t';
    case 'data':
      return `“${drive.name}”`;
    case 'none':
      return 'nothing';
    default:
      return drive.size === 1 ? `a unit ${drive.kind}` : `${articles[drive.kind]} of ${formatNumber(drive.size)}`;
  }
}

const articles = { ramp: 'a ramp', impulse: 'an impulse', parabola: 'a parabola' } as const;

/** In one word, beside a curve. */
export const driveWord = (drive: SheetDrive): string =>
  drive.kind === 'typed' ? (drive.text.length > 10 ? 'f(t)' : drive.text) : drive.kind;

/** When the last of them sets in, in seconds. */
export const lastStart = (drives: readonly SheetDrive[]): number =>
  Math.max(0, ...drives.map((drive) => ('at' in drive ? drive.at : 0)));
