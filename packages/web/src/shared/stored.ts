/** What was stored is looked at before it is believed: it may come from another release, or from nobody. */

export const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const isText = (value: unknown): value is string => typeof value === 'string';
export const areTexts = (value: unknown): boolean => Array.isArray(value) && value.every(isText);
export const areNamedTexts = (value: unknown): boolean => isObject(value) && Object.values(value).every(isText);
