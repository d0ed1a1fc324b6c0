/** Choosing something that changes the picture: what the pointer or the keys come to is shown on it before it is taken. */
import { useEffect, useState, type ReactNode } from "react";
import { Dialog, DialogTrigger, ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import type { Look } from "../../api/types";
import { Button } from "../../kit/button";
import { Menued } from "../../kit/menued";
import { Saucer } from "../../kit/saucer";
import { view } from "../view";
import { Opens } from "../../kit/layout";

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
  .above {
    padding: 8px 10px;
    border-bottom: 1px solid var(--g4);
  }
  .none {
    padding: 12px;
    color: var(--t2);
  }
  [role="listbox"] {
    max-height: 46vh;
    overflow: auto;
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

/** What stands in a pop-up to choose from: the line that the pointer or the keys come to is shown on the picture. */
export function PickList(props: {
  label: string;
  items: Pickable[];
  onTake: (key: string) => void;
  above?: ReactNode;
  empty?: string;
  /** Shows what is shown while nothing is pointed at. */
  rest?: () => void;
}) {
  const { items, rest = draftAgain } = props;
  const [at, setAt] = useState<string | null>(null);
  useEffect(() => {
    const item = items.find((i) => i.key === at);
    if (!item) {
      rest();
      return;
    }
    // An answer that comes after the pointer has moved on is not shown.
    let late = false;
    const show = (look: Look) => {
      if (!late) view({ preview: { name: item.name, look } });
    };
    void item.seen().then(show, () => undefined);
    return () => {
      late = true;
    };
  }, [at]); // eslint-disable-line react-hooks/exhaustive-deps
  useEffect(() => () => rest(), []); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <List onPointerLeave={() => setAt(null)}>
      {props.above ? <div className="above">{props.above}</div> : null}
      <ListBox
        aria-label={props.label}
        selectionMode="none"
        autoFocus
        items={items.map((i) => ({ ...i, id: i.key }))}
        onAction={(key) => props.onTake(String(key))}
        renderEmptyState={() => <p className="none">{props.empty}</p>}
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
  );
}

const draftAgain = () => view({ preview: null });

/** A field that says what is chosen and opens a list to choose from. */
export function Picker(props: { label: string; shown: string; items: Pickable[]; onTake: (key: string) => void }) {
  const [open, setOpen] = useState(false);
  const take = (key: string) => {
    setOpen(false);
    props.onTake(key);
  };
  return (
    <Field>
      <span>{props.label}</span>
      <DialogTrigger isOpen={open} onOpenChange={setOpen}>
        <Button aria-label={`${props.label}: ${props.shown}`}>
          <span>{props.shown}</span>
          <Opens />
        </Button>
        <Menued placement="bottom start">
          <Dialog aria-label={props.label}>
            <PickList label={props.label} items={props.items} onTake={take} />
          </Dialog>
        </Menued>
      </DialogTrigger>
    </Field>
  );
}
