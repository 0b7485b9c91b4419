const decimal = /^[+-]?(\d+(?:\.\d*)?|\.\d+)(e[+-]?\d{1,2})?$/i;
const longest = 40;

/**
 * A decimal as people type it, in the spelling of programs: blanks round it, a true minus sign and a decimal comma are
 * understood. Undefined for anything else, thousands separators included.
 */
export function decimalIn(text: string): string | undefined {
  const bare = text.trim().replace('−', '-').replace(',', '.');
  return bare.length <= longest && decimal.test(bare) ? bare : undefined;
}

/** Whether a text is infinity as people type it. */
export const isEndless = (text: string): boolean => /^(∞|inf|infinity)$/i.test(text.trim());

/** The double that a person typed; NaN where it is no decimal. */
export const numberIn = (text: string | undefined): number => Number(decimalIn(text ?? '') ?? NaN);
