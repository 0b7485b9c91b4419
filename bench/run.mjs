// npm run bench: how fast a check is, and how soon a nudge is on the screen. Figures are medians and percentiles.
import { cpus } from 'node:os';
import { core } from './core.mjs';
import { nudges } from './nudges.mjs';

console.log(`${cpus()[0]?.model.trim()}, ${cpus().length} cores, Node ${process.versions.node}\n`);
core();
await nudges();
