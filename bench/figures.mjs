import { readFileSync } from 'node:fs';

/** @param {number[]} values @param {number} share from 0 to 1 */
export function percentile(values, share) {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN;
}

/** @param {number[]} values */
export const median = (values) => percentile(values, 0.5);

/** @param {string} name @param {string[]} figures */
export function row(name, ...figures) {
  console.log(`  ${name.padEnd(54)}${figures.map((figure) => `  ${figure.padStart(14)}`).join('')}`);
}

/** In ms, from a hand to the painted frame, for 95 of 100. */
const soonEnough = 33;

/**
 * Times of several rounds: their medians and 95th percentiles, of each the middle one, so that a burst of other work on
 * the machine does not decide.
 * @param {string} name @param {number[][]} rounds
 */
export function toPaint(name, rounds) {
  const slow = median(rounds.map((times) => percentile(times, 0.95)));
  row(
    name,
    `${median(rounds.map(median)).toFixed(1)} ms`,
    `${slow.toFixed(1)} ms`,
    `${slow <= soonEnough ? 'within' : 'BEYOND'} ${soonEnough} ms`,
  );
}

/** Runs a measurement three times. @template Of @param {() => Promise<Of>} measure */
export async function threeTimes(measure) {
  return [await measure(), await measure(), await measure()];
}

/** All of the processors' time since the machine started, and what of it the host gave to others; Linux only. */
function processorTime() {
  const fields =
    readFileSync('/proc/stat', 'utf8').split('\n', 1)[0]?.trim().split(/\s+/).slice(1, 9).map(Number) ?? [];
  return { all: fields.reduce((sum, field) => sum + field, 0), stolen: fields[7] ?? 0 };
}

/**
 * Runs a measurement and says how much of the processors the host took away meanwhile: beyond a few per cent, times say
 * little about the program.
 * @param {() => Promise<void>} work
 */
export async function withShareTaken(work) {
  const before = processorTime();
  await work();
  const after = processorTime();
  const share = (after.stolen - before.stolen) / Math.max(1, after.all - before.all);
  row('processors taken away meanwhile', `${(100 * share).toFixed(1)} %`);
}

/** In ms, for the loop below on this machine while its host has nothing else to do. */
const usualLoop = 100;

/**
 * Slows a page down to a quarter of this processor at its usual speed: what the host takes away is taken off first, so
 * that the same phone is measured on a busy day. Gives back the rate.
 * @param {import('playwright-core').CDPSession} session
 */
export async function slowToQuarter(session) {
  const rate = Math.max(1, 4 / hostSlowness());
  await session.send('Emulation.setCPUThrottlingRate', { rate });
  return rate;
}

/** How many times as long as usual this processor takes now. */
export const hostSlowness = () => median([1, 2, 3].map(loopTime)) / usualLoop;

function loopTime() {
  const from = performance.now();
  let sum = 0;
  for (let k = 0; k < 5e7; k++) sum += k % 7;
  return sum > 0 ? performance.now() - from : NaN;
}
