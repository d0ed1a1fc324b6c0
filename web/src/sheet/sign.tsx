/** The signs of a vote: full for it, half with changes, struck through against, a ring while it is open. */
export type Verdict = "for" | "with changes" | "against";

export const VERDICTS = [
  ["for", "for it", "F"],
  ["with changes", "with changes", "W"],
  ["against", "against", "A"],
] as const;

export function Sign(props: { verdict: Verdict | ""; size: number; ringed?: boolean }) {
  const { verdict } = props;
  return (
    <svg width={props.size} height={props.size} viewBox="0 0 20 20" aria-hidden>
      {props.ringed ? <circle cx="10" cy="10" r="10" fill="var(--over)" /> : null}
      <circle
        cx="10"
        cy="10"
        r="6.5"
        fill={verdict === "for" ? "var(--accent)" : "none"}
        stroke={verdict === "for" ? "var(--accent)" : verdict ? "var(--t1)" : "var(--t3)"}
        strokeWidth="1.6"
      />
      {verdict === "with changes" ? <path d="M10 3.5 A6.5 6.5 0 0 0 10 16.5 Z" fill="var(--t1)" /> : null}
      {verdict === "against" ? <path d="M5.6 14.4 L14.4 5.6" stroke="var(--t1)" strokeWidth="1.6" /> : null}
    </svg>
  );
}
