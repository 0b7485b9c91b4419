/** What a quantity can do when something is changed. */
export const trends = ['up', 'same', 'down'] as const;
export type Trend = (typeof trends)[number];
