/** What jsdom lacks of a page: sizes of elements and the watching of them. */
export function watchSizes(): void {
  Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, value: 800 });
  Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, value: 400 });
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
