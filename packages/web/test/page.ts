import { fireEvent } from '@testing-library/react';

/** What jsdom lacks of a page: sizes of elements and the watching of them, and scrolling. */
export function watchSizes(): void {
  Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, value: 800 });
  Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, value: 400 });
  HTMLElement.prototype.scrollIntoView = () => undefined;
  globalThis.ResizeObserver = class {
    observe(): void {
      // Nothing changes its size here.
    }
    unobserve(): void {
      // Nothing to forget.
    }
    disconnect(): void {
      // Nothing to end.
    }
  };
}

/** A pointer's doing at a place of the page; jsdom's own pointer events have no place. */
export function pointAt(
  target: Element,
  type: 'pointerdown' | 'pointermove' | 'pointerup',
  x: number,
  y: number,
): void {
  fireEvent(target, new MouseEvent(type, { bubbles: true, clientX: x, clientY: y }));
}

/** An answer of the server as `fetch` gives it; `text` where that is not the body as JSON. */
export const answered = (
  status: number,
  body: unknown,
  date: string | null = null,
  text = async () => (body === null ? '' : JSON.stringify(body)),
) => ({
  ok: status < 400,
  status,
  headers: { get: (name: string) => (name === 'date' ? date : null) },
  text,
  clone: () => ({ json: async () => body }),
});
