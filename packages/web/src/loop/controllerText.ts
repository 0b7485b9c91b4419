import {
  type ControlLoop,
  convertController,
  factoredToLatex,
  must,
  orElse,
  type PidForm,
  rational,
  rationalToNumber,
} from '@nailset/core';

type Form = PidForm['form'];

const short = (value: number): string => String(Number(value.toPrecision(4)));

/** A compensator in s, in factors. */
export const compensatorLatex = ({ gains }: Pick<ControlLoop, 'gains'>): string => factoredToLatex(gains.fraction);

/**
 * The PID controller in s with its numbers, terms that are zero left out, in one of its forms; in its own form with the
 * numbers that were set. Null where there is none.
 */
export function controllerLatex(
  { gains: { pid: gains, set } }: Pick<ControlLoop, 'gains'>,
  form: Form,
  pidForm: Form,
): string | null {
  if (!gains) return null;
  const numbers = { Kp: rationalToNumber(gains.Kp), Ki: rationalToNumber(gains.Ki), Kd: rationalToNumber(gains.Kd) };
  const filter = rationalToNumber(gains.filterTime);
  const derivative =
    filter > 0 ? (above: string) => `\\frac{${above}}{${short(filter)}\\,s+1}` : (above: string) => above;
  if (form === 'parallel') return parallelLatex(numbers, derivative);
  return orElse(null, () => {
    const converted: PidForm =
      form === pidForm
        ? { form, Kp: must(set.Kp), Ti: set.Ti ?? null, Td: set.Td ?? rational(0n) }
        : convertController({ form: 'parallel', Kp: gains.Kp, Ki: gains.Ki, Kd: gains.Kd }, form, gains.filterTime);
    if (converted.form === 'parallel') return null;
    const Ti = converted.Ti && rationalToNumber(converted.Ti);
    const Td = rationalToNumber(converted.Td);
    const Kp = short(rationalToNumber(converted.Kp));
    const integral = Ti === null ? '' : `\\frac{1}{${short(Ti)}\\,s}`;
    const rate = Td === 0 ? '' : derivative(`${short(Td)}\\,s`);
    if (!integral && !rate) return Kp;
    if (form === 'series')
      return `${Kp}${integral && `\\left(1+${integral}\\right)`}${rate && `\\left(1+${rate}\\right)`}`;
    return `${Kp}\\left(1${integral && `+${integral}`}${rate && `+${rate}`}\\right)`;
  });
}

function parallelLatex(
  { Kp, Ki, Kd }: Readonly<Record<'Kp' | 'Ki' | 'Kd', number>>,
  derivative: (above: string) => string,
): string {
  const terms: [number, (size: string) => string][] = [
    [Kp, (size) => size],
    [Ki, (size) => `\\tfrac{${size}}{s}`],
    [Kd, (size) => derivative(`${size}\\,s`)],
  ];
  const written = terms
    .filter(([value]) => value !== 0)
    .map(([value, write], k) => `${value < 0 ? '-' : k > 0 ? '+' : ''}${write(short(Math.abs(value)))}`);
  return written.join('') || '0';
}
