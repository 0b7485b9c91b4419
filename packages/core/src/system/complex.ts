/** A complex number. */
export interface Complex {
  readonly re: number;
  readonly im: number;
}

/** re + im·j. */
export const complex = (re: number, im = 0): Complex => ({ re, im });
/** Sum. */
export const plus = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im });
/** Difference. */
export const minus = (a: Complex, b: Complex): Complex => ({ re: a.re - b.re, im: a.im - b.im });
/** Product. */
export const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
/** |a|. */
export const magnitude = (a: Complex): number => Math.hypot(a.re, a.im);

/** Quotient. Method: Smith, scaled so that neither square overflows. */
export function over(a: Complex, b: Complex): Complex {
  if (Math.abs(b.re) >= Math.abs(b.im)) {
    const ratio = b.im / b.re;
    const scale = b.re + b.im * ratio;
    return { re: (a.re + a.im * ratio) / scale, im: (a.im - a.re * ratio) / scale };
  }
  const ratio = b.re / b.im;
  const scale = b.re * ratio + b.im;
  return { re: (a.re * ratio + a.im) / scale, im: (a.im * ratio - a.re) / scale };
}
