// npm run bench: how fast a check is, and how soon a nudge or a drawing is on the screen. Medians and percentiles.
import { cpus } from 'node:os';
import { withDemo } from './browser.mjs';
import { cold } from './cold.mjs';
import { core } from './core.mjs';
import { drags } from './drags.mjs';
import { drawing } from './drawing.mjs';
import { withShareTaken } from './figures.mjs';
import { nudges } from './nudges.mjs';
import { openBench } from './open.mjs';
import { typing } from './typing.mjs';

console.log(`${cpus()[0]?.model.trim()}, ${cpus().length} cores, Node ${process.versions.node}\n`);
await withShareTaken(core);
console.log('');
await withDemo(async (open, browser, url) => {
  await nudges(await open('Ilse Okafor'));
  await drawing(await open('Marit Solano'));
  await drags(await open('Marit Solano'));
  await typing(open);
  await openBench(browser, url);
  console.log('');
  await cold(browser, url);
});
