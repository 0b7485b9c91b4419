import { act } from '@testing-library/react';

/** Stands in for the browser's worker: answers, or breaks off, when it is told to. */
export class Stand {
  static last: Stand;
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror: (() => void) | null = null;
  ended = false;
  asked: unknown;
  constructor() {
    Stand.last = this;
  }
  postMessage(question: unknown) {
    this.asked = question;
  }
  terminate() {
    this.ended = true;
  }
  say(data: unknown) {
    act(() => this.onmessage!({ data }));
  }
  breakOff() {
    act(() => this.onerror!());
  }
}

/** In the place of every worker of the tests that follow. */
export function standInForWorkers(): void {
  const real = globalThis.Worker;
  beforeAll(() => (globalThis.Worker = Stand as unknown as typeof Worker));
  afterAll(() => (globalThis.Worker = real));
}
