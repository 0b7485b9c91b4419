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
