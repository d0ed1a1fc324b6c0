/** Loading and failing, in the place where the content will be. */
import { Problem } from "../api/client";
import { Button } from "./button";
import { Empty, Middle } from "./empty";

export function Waiting(props: {
  query: { isPending: boolean; error: unknown; refetch: () => unknown };
  what: string;
}) {
  const { error } = props.query;
  if (!error) {
    return (
      <Middle role="status" aria-label={`Loading ${props.what}`}>
        Loading {props.what} …
      </Middle>
    );
  }
  const status = error instanceof Problem ? error.status : 0;
  const title =
    status === 403 ? "Not for your role" : status === 404 ? "Not here" : `The ${props.what} did not arrive`;
  return (
    <Empty
      title={title}
      action={
        status === 403 || status === 404 ? undefined : (
          <Button onPress={() => props.query.refetch()}>Try again</Button>
        )
      }
    >
      {error instanceof Error ? error.message : ""}
    </Empty>
  );
}
