/** The saucer: a look's round portrait, drawn by the core. */
export function Saucer(props: { src: string | null; size: number; of?: string }) {
  const style = {
    width: props.size,
    height: props.size,
    display: "block",
    flex: "none",
    borderRadius: "50%",
  } as const;
  if (!props.src) return <span style={{ ...style, border: "1px solid var(--g4)" }} aria-hidden />;
  return (
    <img
      src={props.src}
      style={style}
      alt={props.of ? `Saucer of ${props.of}` : ""}
      width={props.size}
      height={props.size}
    />
  );
}

/** Address of a revision's saucer. */
export const saucerOf = (revision: { id: number; digest: string }, size = 160) =>
  `/api/revisions/${revision.id}/saucer?size=${size}&v=${revision.digest.slice(0, 8)}`;
