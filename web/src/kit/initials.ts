/** The first letters of a name. */
export const initialsOf = (name: string): string =>
  name
    .split(" ")
    .map((w) => w[0])
    .join("")
    .slice(0, 2);
