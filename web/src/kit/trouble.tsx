/** What went wrong with what was just asked for, beside where it was asked. */
import { words } from "../api/client";

export function Trouble(props: { error: unknown }) {
  if (!props.error) return null;
  return (
    <p role="alert" style={{ color: "var(--warn)" }}>
      {words(props.error)}
    </p>
  );
}
