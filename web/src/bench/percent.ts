/** A share, 0–1, as people read it. */
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
