/**
 * What went wrong with something that was asked of the whole screen, across its top, until it is dismissed.
 */
import { words } from "../api/client";
import { Button } from "./button";
import { Notice } from "./notice";

export function Wrong(props: { error: unknown; onDismiss: () => void }) {
  if (!props.error) return null;
  return (
    <Notice
      actions={
        <Button look="quiet" onPress={props.onDismiss}>
          Dismiss
        </Button>
      }
    >
      {words(props.error)}
    </Notice>
  );
}
