/** What went wrong with what was just asked for, beside where it was asked. */
import { words } from "../api/client";
import { Warned } from "./layout";

export function Trouble(props: { error: unknown }) {
  if (!props.error) return null;
  return <Warned role="alert">{words(props.error)}</Warned>;
}
