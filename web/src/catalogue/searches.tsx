/** Searches that were kept, and keeping one. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ToggleButton } from "react-aria-components";

import { got, server } from "../api/client";
import { useMe } from "../api/queries";
import { Button } from "../kit/button";
import { Fields } from "../kit/layout";

import { Sheet } from "../kit/sheet";
import { Switch } from "../kit/switch";
import { Text } from "../kit/text";
import { Trouble } from "../kit/trouble";
import { askedOf, catalogueChanged } from "./asked";
import { filtersOf, type Filters } from "./filters";
import styled from "styled-components";

/** A kept search, and the button that lets go of it. */
const Kept = styled.span`
  display: flex;
  > :first-child {
    flex: 1;
  }
`;

/** A name for what the catalogue is narrowed to now: a search of one's own, or a collection that it keeps. */
export function KeepSearch(props: { by: Filters; onClose: () => void }) {
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  const { data: me } = useMe();
  const search = filtersOf(props.by.search).toString();
  const keep = useMutation({
    mutationFn: async () => {
      if (shared) await got(server.POST("/api/collections", { body: { name, search } }));
      else await got(server.POST("/api/catalogue/searches", { body: { name, search } }));
    },
    onSuccess: () => {
      void catalogueChanged();
      props.onClose();
    },
  });
  return (
    <Sheet title="Keep this search" width={420} onClose={props.onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate();
        }}
      >
        <Fields>
          <Text label="Name" value={name} onChange={setName} maxLength={80} autoFocus required />
          {me?.may_design ? (
            <Switch label="For everybody, as a collection that follows it" on={shared} onChange={setShared} />
          ) : null}
          <Trouble error={keep.error} />
        </Fields>
        <footer>
          <Button onPress={props.onClose}>Cancel</Button>
          <Button look="main" type="submit" isDisabled={!name.trim() || keep.isPending}>
            Keep
          </Button>
        </footer>
      </form>
    </Sheet>
  );
}

/** Searches that one kept. */
export function Searches({ by }: { by: Filters }) {
  const { data } = useQuery(askedOf.searches);
  const drop = useMutation({
    mutationFn: (id: number) =>
      got(server.DELETE("/api/catalogue/searches/{search_id}", { params: { path: { search_id: id } } })),
    onSuccess: catalogueChanged,
  });
  const now = filtersOf(by.search).toString();
  if (!data?.length) return null;
  return (
    <section>
      <h2>Kept searches</h2>
      <div className="rows">
        {data.map((s) => (
          <Kept key={s.id}>
            <ToggleButton
              isSelected={new URLSearchParams(s.search).toString() === now}
              onChange={(on) => (on ? by.open(s.search) : by.clear())}
            >
              <span>{s.name}</span>
            </ToggleButton>
            <Button look="icon" aria-label={`Let go of ${s.name}`} onPress={() => drop.mutate(s.id)}>
              ✕
            </Button>
          </Kept>
        ))}
      </div>
    </section>
  );
}
