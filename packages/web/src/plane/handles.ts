import { type GainName, isPid, numberIn, openGains, partnersOf, type Settings } from '@nailset/core';
import type { GainsOf } from '../loop/loopResponse';
import type { HeldRatios } from '../loop/ratios';

/** A zero or pole of the compensator that is dragged in the plane. */
export interface Handle {
  /** Of its real part among the settings. */
  readonly name: string;
  /** Of its imaginary part, for one of a pair. */
  readonly other?: string;
  readonly kind: 'zero' | 'pole';
  readonly re: number;
  readonly im: number;
  readonly fine: number;
}

/** The zeros and poles that the student sets, where they are now. */
export function handlesOf(part: GainsOf, settings: Settings): Handle[] {
  return openGains(part.controller).flatMap(({ name, fine }): Handle[] => {
    const re = numberIn(settings[name]);
    if (settings[name] === undefined || !Number.isFinite(re)) return [];
    const kind = name.startsWith('z') ? 'zero' : 'pole';
    if (/^[zp]\d$/.test(name)) return [{ name, kind, re, im: 0, fine }];
    if (name !== 'zr' && name !== 'pr') return [];
    const other = `${name[0]}i`;
    return [{ name, other, kind, re, im: Math.abs(numberIn(settings[other] ?? '0')), fine }];
  });
}

/**
 * Settings with a handle elsewhere, rounded to what can be read. It stops where the exercise sets a limit: at the ends
 * of its range, at the largest ratio to its partner, and, where their ratio is held, at the ends of the partner's range.
 */
export function moved(
  part: GainsOf,
  settings: Settings,
  handle: Handle,
  to: { re: number; im: number },
  held: HeldRatios = {},
): Settings {
  return {
    ...settings,
    [handle.name]: placed(allowedFor(part, settings, handle.name, held), to.re),
    ...(handle.other
      ? { [handle.other]: placed(allowedFor(part, settings, handle.other, held), Math.abs(to.im)) }
      : {}),
  };
}

/** Where a setting may be: an interval, and for its distance from the origin another. */
interface Allowed {
  readonly low: number;
  readonly high: number;
  readonly near: number;
  readonly far: number;
}

function allowedFor(part: GainsOf, settings: Settings, name: string, held: HeldRatios): Allowed {
  const range = (of: string) => {
    const gain = openGains(part.controller).find((open) => open.name === of);
    return { low: gain?.low ?? -Infinity, high: gain?.high ?? Infinity };
  };
  const allowed = range(name);
  const [, side, pair] = /^([zp])(\d)$/.exec(name) ?? [];
  const partner = `${side === 'z' ? 'p' : 'z'}${pair}`;
  if (!pair || settings[partner] === undefined) return { ...allowed, near: 0, far: Infinity };
  const ratio = held[pair];
  if (ratio !== undefined) {
    // The partner goes along at this multiple.
    const times = side === 'z' ? ratio : 1 / ratio;
    const other = range(partner);
    const ends = [other.low / times, other.high / times].sort((a, b) => a - b) as [number, number];
    return { low: Math.max(allowed.low, ends[0]), high: Math.min(allowed.high, ends[1]), near: 0, far: Infinity };
  }
  const largest = isPid(part.controller) ? undefined : part.controller.largestRatio;
  const distance = Math.abs(numberIn(settings[partner]));
  if (largest === undefined || !(distance > 0)) return { ...allowed, near: 0, far: Infinity };
  return { ...allowed, near: distance / largest, far: distance * largest };
}

/** The limit itself is allowed, whatever its last bits are. */
const slack = 1e-12;

/** The place nearest to the one wanted that is allowed, with four digits; rounding never leads outside. */
function placed({ low, high, near, far }: Allowed, wanted: number): string {
  const isIn = (value: number): boolean =>
    value >= low && value <= high && Math.abs(value) >= near * (1 - slack) && Math.abs(value) <= far * (1 + slack);
  const side = wanted < 0 || (wanted === 0 && high <= 0) ? -1 : 1;
  const away = side * Math.min(far, Math.max(near, Math.abs(wanted)));
  const exact = Math.min(high, Math.max(low, away));
  const rounded = Number(exact.toPrecision(4));
  const digit = exact === 0 ? 0 : 10 ** (Math.floor(Math.log10(Math.abs(exact))) - 3);
  const shortest = [rounded, rounded - digit, rounded + digit].map((value) => Number(value.toPrecision(4))).find(isIn);
  return String(shortest ?? exact);
}

/** Something that can be added to the compensator: its settings and what it is called. */
export interface Addition {
  readonly label: string;
  readonly settings: Settings;
}

/** Terms that are allowed and not there yet. A zero and a pole of one number come as a lead or lag as well. */
export function additionsTo(part: GainsOf, settings: Settings): Addition[] {
  const open = openGains(part.controller).filter(({ optional }) => optional);
  const missing = new Map(open.filter(({ name }) => settings[name] === undefined).map((gain) => [gain.name, gain]));
  const start = (...names: GainName[]): Settings =>
    Object.fromEntries(names.map((name) => [name, String(missing.get(name)!.start)]));
  const has = (...names: GainName[]): boolean => names.every((name) => missing.has(name));
  const additions: Addition[] = [];
  const k = ([1, 2, 3] as const).find((n) => has(`z${n}`, `p${n}`));
  if (k) {
    const [zero, pole] = [missing.get(`z${k}`)!, missing.get(`p${k}`)!];
    const label = Math.abs(zero.start) < Math.abs(pole.start) ? 'lead' : 'lag';
    additions.push({ label: `${label} z${k}, p${k}`, settings: start(`z${k}`, `p${k}`) });
  }
  for (const side of ['z', 'p'] as const) {
    const n = ([1, 2, 3] as const).find((number) => has(`${side}${number}`));
    if (n) additions.push({ label: `${side === 'z' ? 'zero' : 'pole'} ${side}${n}`, settings: start(`${side}${n}`) });
  }
  if (has('zr', 'zi')) additions.push({ label: 'pair of zeros', settings: start('zr', 'zi') });
  if (has('pr', 'pi')) additions.push({ label: 'pair of poles', settings: start('pr', 'pi') });
  return additions;
}

/** Settings without a term; both halves of a pair go. */
export function without(settings: Settings, name: string): Settings {
  const gone: readonly string[] = partnersOf(name);
  return Object.fromEntries(Object.entries(settings).filter(([key]) => !gone.includes(key)));
}
