import { withDemo } from './browser.mjs';
import { typing } from './typing.mjs';
import { cold } from './cold.mjs';
await withDemo(async (open, browser, url) => { await typing(open); await cold(browser, url); });
process.exit(0);
