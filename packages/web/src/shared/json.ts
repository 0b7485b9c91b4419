/** What a text says as JSON; undefined where it is not JSON. */
export function jsonIn(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
