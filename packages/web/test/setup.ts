import { TextDecoder, TextEncoder } from 'node:util';
import { configure } from '@testing-library/dom';

// Browsers and Node have these; the page that tests run in does not.
Object.assign(globalThis, { TextDecoder, TextEncoder });

// A part is loaded when it is first shown, which takes its time on a busy machine.
configure({ asyncUtilTimeout: 15_000 });

/** Elements that labels name. */
const labelled = ['Input', 'Select', 'TextArea', 'Button', 'Output', 'Meter', 'Progress'] as const;

// Labels are asked for with every field that is looked for; the page of tests walks all of itself for each one.
if ('document' in globalThis) {
  for (const name of labelled) {
    Object.defineProperty(globalThis[`HTML${name}Element`].prototype, 'labels', {
      get(this: HTMLElement) {
        const around = this.closest('label');
        const by = this.id ? [...this.ownerDocument.getElementsByTagName('label')] : [];
        const labels = by.filter(({ htmlFor }) => htmlFor === this.id);
        return around && !around.htmlFor ? [around, ...labels] : labels;
      },
    });
  }
}
