/** A share as marks are told: `87.5 %`; a dash for none. */
export const percent = (share: number | null): string =>
  share === null ? '–' : `${(Math.round(share * 1000 + 1e-7) / 10).toFixed(1)} %`;
