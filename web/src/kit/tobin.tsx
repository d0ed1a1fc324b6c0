/** Removing something: it goes to the bin, from where it can be put back for thirty days. */
import type { Key } from "../api/keys";
import { useWrite } from "../api/writes";
import { Button } from "./button";
import { Trouble } from "./trouble";

export function ToBin(props: {
  what: string;
  remove: () => Promise<unknown>;
  stale: readonly Key[];
  onGone?: () => void;
}) {
  const away = useWrite(props.remove, [...props.stale, "bin", "people"], () => props.onGone?.());
  return (
    <>
      <Button look="quiet" isDisabled={away.isPending} onPress={() => away.mutate()}>
        Move {props.what} to the bin
      </Button>
      <Trouble error={away.error} />
    </>
  );
}
