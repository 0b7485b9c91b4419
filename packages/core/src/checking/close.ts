/** The share of a limit, or of the expected value, that a miss may lie beyond it and still be called close. */
export const closeShare = 0.01;
