import { TextDecoder, TextEncoder } from 'node:util';

// Browsers and Node have these; the page that tests run in does not.
Object.assign(globalThis, { TextDecoder, TextEncoder });
