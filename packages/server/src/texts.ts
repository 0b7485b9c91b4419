/**
 * A value as it came in JSON, with every text in it as PostgreSQL can keep it and every program can read it: NUL goes,
 * and half a pair of surrogates becomes the replacement character. Keys as well as values.
 */
export function cleanTexts(value: unknown): unknown {
  if (typeof value === 'string') return cleanText(value);
  if (Array.isArray(value)) return value.map(cleanTexts);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [cleanText(key), cleanTexts(inner)]));
}

const cleanText = (text: string): string => (isClean(text) ? text : text.replaceAll('\0', '').toWellFormed());

const isClean = (text: string): boolean => !text.includes('\0') && text.isWellFormed();
