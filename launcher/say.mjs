/** Something a person can do something about; shown without a stack. */
export class Trouble extends Error {}

/** Steps that are under way; only one alone keeps its line. */
let underWay = 0;

/**
 * Shows a step while it runs, then what came of it and how long it took.
 * @template T
 * @param {string} what
 * @param {() => Promise<T>} work
 * @returns {Promise<T>}
 */
export async function step(what, work) {
  const started = Date.now();
  const live = process.stdout.isTTY;
  process.stdout.write(`${live && underWay > 0 ? '\n' : ''}  … ${what}${live ? '' : '\n'}`);
  underWay += 1;
  try {
    const result = await work();
    const seconds = ((Date.now() - started) / 1000).toFixed(1);
    process.stdout.write(`${live ? '\r\x1b[K' : ''}  ✓ ${what}  ${seconds} s\n`);
    return result;
  } catch (error) {
    process.stdout.write(`${live ? '\r\x1b[K' : ''}  ✗ ${what}\n`);
    throw error;
  } finally {
    underWay -= 1;
  }
}
