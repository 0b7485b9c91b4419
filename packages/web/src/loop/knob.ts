/** Something on the ladder: a gain, or a parameter of a model that is made to follow a curve. */
export interface Knob {
  readonly name: string;
  readonly latex: string;
  readonly unit: string;
  readonly start: number;
  readonly fine: number;
  readonly coarse: number;
  readonly low?: number;
  readonly high?: number;
  /** It may be left out. */
  readonly optional?: boolean;
}
