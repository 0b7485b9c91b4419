import { decimalIn } from '../expression/decimal.js';

/**
 * A text as a cell of a table that no spreadsheet takes for a formula: what begins like one and is not a plain number
 * gets an apostrophe in front.
 */
export const cellText = (text: string): string =>
  /^[=+@\t\r−-]/.test(text) && decimalIn(text) === undefined ? `'${text}` : text;
