/** On one plot; the oldest gives way to one more. */
export const mostReadings = 12;
