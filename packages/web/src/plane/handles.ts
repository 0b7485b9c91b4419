import { type GainName, type Settings, openGains, partnersOf } from '@nailset/core';
import type { GainsOf } from '../bench/loopResponse';

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
    const re = Number(settings[name]?.replace('−', '-'));
    if (settings[name] === undefined || !Number.isFinite(re)) return [];
    const kind = name.startsWith('z') ? 'zero' : 'pole';
    if (/^[zp]\d$/.test(name)) return [{ name, kind, re, im: 0, fine }];
    if (name !== 'zr' && name !== 'pr') return [];
    const other = `${name[0]}i`;
    return [{ name, other, kind, re, im: Math.abs(Number(settings[other]?.replace('−', '-') ?? 0)), fine }];
  });
}

/** Settings with a handle elsewhere, rounded to what can be read and kept inside its range. */
export function moved(part: GainsOf, settings: Settings, handle: Handle, to: { re: number; im: number }): Settings {
  const kept = (name: string, value: number): string => {
    const gain = openGains(part.controller).find((open) => open.name === name);
    const within = Math.min(gain?.high ?? Infinity, Math.max(gain?.low ?? -Infinity, value));
    return String(Number(within.toPrecision(4)));
  };
  return {
    ...settings,
    [handle.name]: kept(handle.name, to.re),
    ...(handle.other ? { [handle.other]: kept(handle.other, Math.abs(to.im)) } : {}),
  };
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
  const found: Addition[] = [];
  const k = ([1, 2, 3] as const).find((n) => has(`z${n}`, `p${n}`));
  if (k) {
    const [zero, pole] = [missing.get(`z${k}`)!, missing.get(`p${k}`)!];
    const label = Math.abs(zero.start) < Math.abs(pole.start) ? 'lead' : 'lag';
    found.push({ label: `${label} z${k}, p${k}`, settings: start(`z${k}`, `p${k}`) });
  }
  for (const side of ['z', 'p'] as const) {
    const n = ([1, 2, 3] as const).find((number) => has(`${side}${number}`));
    if (n) found.push({ label: `${side === 'z' ? 'zero' : 'pole'} ${side}${n}`, settings: start(`${side}${n}`) });
  }
  if (has('zr', 'zi')) found.push({ label: 'pair of zeros', settings: start('zr', 'zi') });
  if (has('pr', 'pi')) found.push({ label: 'pair of poles', settings: start('pr', 'pi') });
  return found;
}

/** Settings without a term; both halves of a pair go. */
export function without(settings: Settings, name: string): Settings {
  const gone: readonly string[] = partnersOf(name);
  return Object.fromEntries(Object.entries(settings).filter(([key]) => !gone.includes(key)));
}
