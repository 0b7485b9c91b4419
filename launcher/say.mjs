/** Something a person can do something about; shown without a stack. */
export class Trouble extends Error {}

/** Whether the last line is of a step that is under way, and may be written over. */
let isOpen = false;

/** @param {string} line what came of a step */
function close(line) {
  process.stdout.write(`${isOpen ? '\r\x1b[K' : ''}${line}\n`);
  isOpen = false;
}

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
  process.stdout.write(`${isOpen ? '\n' : ''}  … ${what}${live ? '' : '\n'}`);
  isOpen = live;
  try {
    const result = await work();
    const seconds = ((Date.now() - started) / 1000).toFixed(1);
    close(`  ✓ ${what}  ${seconds} s`);
    return result;
  } catch (error) {
    close(`  ✗ ${what}`);
    throw error;
  }
}
