/** Looks into a collection. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { got, server } from "../api/client";
import { Button } from "../kit/button";
import { Fields } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { catalogueChanged } from "./asked";

/** Looks into a collection by its name, which is made where there is none. */
export function IntoCollection(props: { looks: number[]; onClose: () => void }) {
  const [name, setName] = useState("");
  const put = useMutation({
    mutationFn: () =>
      got(
        server.POST("/api/collections/{name}/looks", {
          params: { path: { name: name.trim() } },
          body: { looks: props.looks },
        }),
      ),
    onSuccess: () => {
      void catalogueChanged();
      props.onClose();
    },
  });
  return (
    <Sheet
      title={props.looks.length === 1 ? "Into a collection" : `${props.looks.length} looks into a collection`}
      width={420}
      onClose={props.onClose}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          put.mutate();
        }}
      >
        <Fields>
          <Text
            label="Collection"
            hint="one that is there, or a new name"
            value={name}
            onChange={setName}
            maxLength={80}
            autoFocus
            required
          />
          <Trouble error={put.error} />
        </Fields>
        <footer>
          <Button onPress={props.onClose}>Cancel</Button>
          <Button look="main" type="submit" isDisabled={!name.trim() || put.isPending}>
            Put in
          </Button>
        </footer>
      </form>
    </Sheet>
  );
}
