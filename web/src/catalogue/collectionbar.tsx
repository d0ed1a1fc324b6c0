/** The collection that is shown: its note, its name, and what can be done with it. */
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import { useWrite } from "../api/writes";
import { Button } from "../kit/button";
import { Fields, Grow, Quiet, Said } from "../kit/layout";
import { Sheet } from "../kit/sheet";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import type { Filters } from "./filters";

const Bar = styled.section`
  flex: none;
  display: flex;
  align-items: baseline;
  gap: 10px;
  margin: -6px 0 10px;
`;

export const askedOfCollection = (name: string) =>
  queryOptions({
    queryKey: ["catalogue", "collection", name],
    queryFn: () => got(server.GET("/api/collections/{name}", { params: { path: { name } } })),
    enabled: name !== "",
  });

export function CollectionBar({ by }: { by: Filters }) {
  const name = by.get("collection");
  const { data } = useQuery(askedOfCollection(name));
  const { data: me } = useMe();
  const navigate = useNavigate();
  const [open, setOpen] = useState<"" | "change" | "apart">("");
  if (!data) return null;
  return (
    <Bar aria-label={`Collection ${data.name}`}>
      <h2>{data.name}</h2>
      <Quiet>
        {data.note ||
          (data.search
            ? "follows a search"
            : by.get("order") === "by hand"
              ? "drag the cards into their order, or move them by Alt ← and →"
              : "")}
      </Quiet>
      <Grow />
      {me?.may_design ? (
        <>
          {data.search || by.get("order") === "by hand" ? null : (
            <Button look="quiet" onPress={() => by.put("order", "by hand")}>
              In its order
            </Button>
          )}
          <Button look="quiet" onPress={() => setOpen("change")}>
            Rename
          </Button>
          <Button
            look="quiet"
            onPress={() => void navigate(`/catalogue/pack-out?collection=${encodeURIComponent(data.name)}`)}
          >
            Pack out
          </Button>
          <Button look="quiet" onPress={() => setOpen("apart")}>
            Take apart
          </Button>
        </>
      ) : null}
      {open === "change" ? (
        <Changing name={data.name} note={data.note} by={by} onClose={() => setOpen("")} />
      ) : null}
      {open === "apart" ? <TakingApart name={data.name} by={by} onClose={() => setOpen("")} /> : null}
    </Bar>
  );
}

function Changing(props: { name: string; note: string; by: Filters; onClose: () => void }) {
  const [name, setName] = useState(props.name);
  const [note, setNote] = useState(props.note);
  const change = useWrite(
    () =>
      got(
        server.PATCH("/api/collections/{name}", {
          params: { path: { name: props.name } },
          body: { name, note } as never,
        }),
      ),
    ["catalogue"],
    (made) => {
      props.by.put("collection", made.name);
      props.onClose();
    },
  );
  return (
    <Sheet title="The collection" width={420} onClose={props.onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          change.mutate();
        }}
      >
        <Fields>
          <Text label="Name" value={name} onChange={setName} maxLength={80} autoFocus required />
          <Text label="Note" value={note} onChange={setNote} maxLength={300} />
          <Trouble error={change.error} />
        </Fields>
        <footer>
          <Button onPress={props.onClose}>Cancel</Button>
          <Button look="main" type="submit" isDisabled={!name.trim() || change.isPending}>
            Keep
          </Button>
        </footer>
      </form>
    </Sheet>
  );
}

function TakingApart(props: { name: string; by: Filters; onClose: () => void }) {
  const drop = useWrite(
    () => got(server.DELETE("/api/collections/{name}", { params: { path: { name: props.name } } })),
    ["catalogue"],
    () => {
      props.by.put("collection", null);
      props.onClose();
    },
  );
  return (
    <Sheet title={`Take ${props.name} apart`} width={400} onClose={props.onClose}>
      <Said>
        The looks stay in the catalogue; the collection stays in the bin for 30 days, with its order.
      </Said>
      <Trouble error={drop.error} />
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={drop.isPending} onPress={() => drop.mutate()}>
          Take apart
        </Button>
      </footer>
    </Sheet>
  );
}
