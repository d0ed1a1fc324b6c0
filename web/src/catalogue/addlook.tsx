/** A look by a few letters of its name, its tags or what it does. */
import { useState } from "react";
import { Button as AriaButton, ComboBox, Input, ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import { useCatalogue } from "../api/queries";
import type { Card } from "../api/types";
import { Menued } from "../kit/menued";
import { Opens } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";

const None = styled.div`
  padding: 8px;
`;
const Box = styled(ComboBox)`
  margin-top: 8px;
  > div {
    display: flex;
    border: 1px solid var(--g4);
    border-radius: 15px;
    height: 30px;
    max-width: 280px;
  }
  input {
    flex: 1;
    border: 0;
    background: none;
    padding: 0 13px;
    min-width: 0;
    outline: none;
  }
  > div:focus-within {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  button {
    border: 0;
    background: none;
    width: 30px;
  }
`;

export function AddLook(props: { without: number[]; onAdd: (card: Card) => void; label?: string }) {
  const [text, setText] = useState("");
  // Drawn anew after each choice: its list would open again over the page.
  const [taken, setTaken] = useState(0);
  const { data } = useCatalogue(text);
  const items = (data?.cards ?? []).filter((c) => !props.without.includes(c.id)).slice(0, 40);
  return (
    <Box
      key={taken}
      autoFocus={taken > 0}
      aria-label={props.label ?? "Add a look"}
      items={items}
      inputValue={text}
      onInputChange={setText}
      selectedKey={null}
      onSelectionChange={(key) => {
        const card = items.find((c) => c.id === Number(key));
        if (!card) return;
        setText("");
        setTaken(taken + 1);
        props.onAdd(card);
      }}
      allowsEmptyCollection
      defaultFilter={() => true}
    >
      <div>
        <Input placeholder={props.label ?? "Add a look"} />
        <AriaButton>
          <Opens />
        </AriaButton>
      </div>
      <Menued>
        <ListBox renderEmptyState={() => <None>No look fits.</None>}>
          {(c: (typeof items)[number]) => (
            <ListBoxItem id={c.id} textValue={c.name}>
              <Saucer src={saucerOf(c.revision)} size={24} />
              {c.name}
              <small>{c.words.slice(0, 2).join(", ")}</small>
            </ListBoxItem>
          )}
        </ListBox>
      </Menued>
    </Box>
  );
}
