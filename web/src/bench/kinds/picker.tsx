/** Choosing something that changes the picture: what the pointer or the keys come to is shown on it before it is taken. */
import { useEffect, useState } from "react";
import { Dialog, DialogTrigger, ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import type { Look } from "../../api/types";
import { Button } from "../../kit/button";
import { Menued } from "../../kit/menued";
import { Saucer } from "../../kit/saucer";
import { view } from "../view";

const Field = styled.div`
  display: grid;
  gap: 4px;
  min-width: 0;
  > span {
    color: var(--t2);
    font-size: 12px;
  }
  > button {
    justify-content: space-between;
    border-radius: var(--r);
    background: var(--g0);
    padding: 0 9px;
    font-weight: 400;
  }
  > button > span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;
const List = styled.div`
  width: 290px;
  max-height: 52vh;
  overflow: auto;
  [role="listbox"] {
    outline: none;
  }
  [role="option"] {
    align-items: center !important;
  }
  [role="option"] span {
    flex: 1;
    min-width: 0;
  }
  small {
    display: block;
  }
`;

export interface Pickable {
  key: string;
  name: string;
  note: string;
  saucer?: string;
  /** The draft with this one in it. */
  seen: () => Promise<Look>;
}

export function Picker(props: { label: string; shown: string; items: Pickable[]; onTake: (key: string) => void }) {
  const [open, setOpen] = useState(false);
  const [at, setAt] = useState<string | null>(null);
  useEffect(() => {
    const item = props.items.find((i) => i.key === at);
    if (!open || !item) {
      view({ preview: null });
      return;
    }
    let late = false;
    void item.seen().then(
      (look) => !late && view({ preview: { name: item.name, look } }),
      () => undefined,
    );
    return () => {
      late = true;
    };
  }, [at, open]); // eslint-disable-line react-hooks/exhaustive-deps
  useEffect(() => () => view({ preview: null }), []);
  return (
    <Field>
      <span>{props.label}</span>
      <DialogTrigger
        isOpen={open}
        onOpenChange={(o) => {
          setOpen(o);
          setAt(null);
        }}
      >
        <Button aria-label={`${props.label}: ${props.shown}`}>
          <span>{props.shown}</span>
          <span aria-hidden style={{ color: "var(--t3)", fontSize: 10 }}>
            ▾
          </span>
        </Button>
        <Menued placement="bottom start">
          <Dialog aria-label={props.label}>
            <List onPointerLeave={() => setAt(null)}>
              <ListBox
                aria-label={props.label}
                selectionMode="none"
                autoFocus
                items={props.items}
                onAction={(key) => {
                  setOpen(false);
                  setAt(null);
                  props.onTake(String(key));
                }}
              >
                {(i) => (
                  <ListBoxItem id={i.key} textValue={i.name} onHoverStart={() => setAt(i.key)} onFocus={() => setAt(i.key)}>
                    {i.saucer ? <Saucer src={i.saucer} size={34} /> : null}
                    <span>
                      {i.name}
                      <small>{i.note}</small>
                    </span>
                  </ListBoxItem>
                )}
              </ListBox>
            </List>
          </Dialog>
        </Menued>
      </DialogTrigger>
    </Field>
  );
}
