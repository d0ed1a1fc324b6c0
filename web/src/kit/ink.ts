/** A colour of the theme for a canvas, which knows no names of colours. */
export const ink = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim();
