/** What was understood of a typed expression. `at` is the zero-based position in the text. */
export type Tree =
  | { kind: 'number'; text: string; at: number }
  | { kind: 'name'; name: string; at: number }
  | { kind: 'negative'; of: Tree; at: number }
  | { kind: 'sum' | 'difference' | 'product' | 'quotient'; left: Tree; right: Tree; at: number }
  | { kind: 'power'; base: Tree; exponent: Tree; at: number }
  | { kind: 'exponential'; exponent: Tree; at: number };
