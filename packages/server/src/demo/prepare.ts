import { writeFileSync } from 'node:fs';
import { preparedFile, workOfTheClass } from './handedIn.js';

/** A step of the build: works out what the demo’s class has handed in. */
writeFileSync(preparedFile, JSON.stringify(workOfTheClass()));
