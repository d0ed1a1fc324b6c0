/** A number with its sign and no needless zeros; what rounds to nothing has no sign. */
export function signed(value: number, digits = 2): string {
  const round = Number(value.toFixed(digits));
  return `${round > 0 ? "+" : round < 0 ? "−" : ""}${Math.abs(round)}`;
}
