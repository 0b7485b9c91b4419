/** Names that schemas and programs share; no schemas here, so that a page can have the names without them. */

/** Signals of the loop that a nail can be about: output, error, effort. */
export const signalNames = ['y', 'e', 'u'] as const;
export type SignalName = (typeof signalNames)[number];

export const pidGainNames = ['Kp', 'Ki', 'Kd', 'Ti', 'Td'] as const;
export type PidGainName = (typeof pidGainNames)[number];

/** Gain, real zeros and poles, and one pair of each by real and imaginary part, all as places in the s-plane. */
export const compensatorNames = ['K', 'z1', 'p1', 'z2', 'p2', 'z3', 'p3', 'zr', 'zi', 'pr', 'pi'] as const;
export type CompensatorName = (typeof compensatorNames)[number];
export type GainName = PidGainName | CompensatorName;

/** What the bench shows beside the response. */
export const partViews = ['effort', 'plane', 'locus', 'bode', 'nyquist'] as const;
export type PartView = (typeof partViews)[number];

/** What an option can show of a system. */
export const plotKinds = ['step', 'poles', 'locus', 'bode', 'nyquist'] as const;
export type PlotKind = (typeof plotKinds)[number];

/** Which points of the s-plane can be asked for. */
export const pointSets = ['poles', 'zeros', 'breakPoints', 'axisCrossings', 'realAxis', 'asymptotes', 'locus'] as const;
export type PointSet = (typeof pointSets)[number];

/** Groups of terms from which a model over frequency is put together. */
export const termGroups = ['origin', 'poles', 'zeros', 'polePairs', 'zeroPairs', 'deadTime'] as const;
export type TermGroup = (typeof termGroups)[number];
