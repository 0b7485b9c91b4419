/** A question that was on its way before the views were: whose it is, and when and what it was answered. */
export interface Begun {
  readonly whose: string | undefined;
  /** In ms since 1970, by this device. */
  readonly at: number;
  readonly answer: Promise<{ readonly response: Response; readonly at: number }>;
}

declare global {
  /** Set by what runs before this script has come; none elsewhere. */
  var nailsetBegun: Map<string, Begun> | undefined;
}

/** In ms. A view that has not asked by then asks the server itself. */
const kept = 10_000;

/** The answer that is on its way to this question of this person, once. */
export function takeBegun(path: string, whose: string | undefined): Begun['answer'] | undefined {
  const found = globalThis.nailsetBegun?.get(path);
  globalThis.nailsetBegun?.delete(path);
  return found && found.whose === whose && Date.now() - found.at < kept ? found.answer : undefined;
}
