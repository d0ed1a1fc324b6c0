import styled from "styled-components";

const Round = styled.img`
  display: block;
  flex: none;
  border-radius: 50%;
`;
/** Where there is none: its place. */
const Place = styled.span`
  display: block;
  flex: none;
  border: 1px solid var(--g4);
  border-radius: 50%;
`;

/** The saucer: a look's round portrait, drawn by the core. */
export function Saucer(props: { src: string | null; size: number; of?: string }) {
  const size = { width: props.size, height: props.size };
  if (!props.src) return <Place style={size} aria-hidden />;
  return <Round src={props.src} style={size} alt={props.of ? `Saucer of ${props.of}` : ""} {...size} />;
}

/** Address of a revision's saucer. */
export const saucerOf = (revision: { id: number; digest: string }, size = 160) =>
  `/api/revisions/${revision.id}/saucer?size=${size}&v=${revision.digest.slice(0, 8)}`;
