import { fractionOf } from '../src/index';

const bits = 900n;

/**
 * The unit step response at a time from the power series y(t) = Σ h_k·t^k/k!, summed in fixed-point numbers of 900 bits:
 * it knows nothing of poles, so repeated and clustered ones are like any other. Good while |fastest pole|·t is below 400.
 */
export function stepResponseExactly(text: string, time: number): number {
  const { numerator, denominator } = fractionOf(text);
  const n = denominator.integers.length - 1;
  const above = (k: number) => (numerator.integers[k] ?? 0n) * denominator.denominator;
  const below = (k: number) => (denominator.integers[k] ?? 0n) * numerator.denominator;
  const lead = below(n);
  // Markov parameters of N/D times t^k: g_0 = b_n/a_n, then a_n·g_k = b_{n−k} − Σ a_{n−j}·g_{k−j}; terms are g_k·t^k/k!.
  const whole = BigInt(Math.round(time * 2 ** 40));
  const powers = Array.from({ length: n + 1 }, (_, k) => whole ** BigInt(k));
  const scaled: bigint[] = [];
  let sum = 0n;
  let factorial = 1n;
  for (let k = 0; k < 3000; k++) {
    let rest = k <= n ? ((above(n - k) * powers[k]!) << bits) >> BigInt(40 * k) : 0n;
    for (let j = 1; j <= Math.min(k, n); j++) rest -= (below(n - j) * powers[j]! * scaled[k - j]!) >> BigInt(40 * j);
    scaled.push(rest / lead);
    if (k > 0) factorial *= BigInt(k);
    const term = scaled[k]! / factorial;
    sum += term;
    if (k > n && k > 1000 && term === 0n) break;
  }
  return Number((sum * 10n ** 30n) >> bits) / 1e30;
}
