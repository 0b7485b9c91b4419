import { spawn, spawnSync } from 'node:child_process';
import { Trouble } from './say.mjs';

/**
 * Runs a program to its end, quietly; what it printed is shown only when it fails.
 * @param {string} program
 * @param {string[]} args
 * @param {import('node:child_process').SpawnOptions} [options]
 */
export async function run(program, args, options = {}) {
  const { status, output } = await runKeeping(program, args, options);
  if (status !== 0) {
    throw new Trouble(`${program} ${args.join(' ')} ended with status ${status}:\n${output.slice(-6000).trim()}`);
  }
}

/**
 * Runs a program to its end and gives back its status and all it printed.
 * @param {string} program
 * @param {string[]} args
 * @param {import('node:child_process').SpawnOptions & { echo?: boolean }} [options]
 * @returns {Promise<{ status: number, output: string }>}
 */
export function runKeeping(program, args, { echo = false, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { ...options, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream?.on('data', (/** @type {Buffer} */ data) => {
        output += data.toString();
        if (echo) process.stdout.write(data);
      });
    }
    child.once('error', reject);
    child.once('close', (code) => resolve({ status: code ?? 1, output }));
  });
}

/**
 * Whether a program can be started and ends well.
 * @param {string} program
 * @param {string[]} args
 * @param {import('node:child_process').SpawnSyncOptions} [options]
 */
export function works(program, args, options = {}) {
  return spawnSync(program, args, { stdio: 'ignore', ...options }).status === 0;
}
