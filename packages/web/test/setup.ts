import { TextDecoder, TextEncoder } from 'node:util';
import { configure } from '@testing-library/dom';

// Browsers and Node have these; the page that tests run in does not.
Object.assign(globalThis, { TextDecoder, TextEncoder });

// A part is loaded when it is first shown, which takes its time on a busy machine.
configure({ asyncUtilTimeout: 15_000 });
