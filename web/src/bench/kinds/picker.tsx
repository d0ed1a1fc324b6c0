/**
 * Choosing something that changes the picture: what the pointer or the keys come to is shown on it before it
 * is taken.
 */
import { useEffect, useState, type ReactNode } from "react";
import {
  Autocomplete,
  Dialog,
  DialogTrigger,
  Input,
  ListBox,
  ListBoxItem,
  SearchField,
  useFilter,
} from "react-aria-components";
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
  width: 350px;
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
  .frame {
    width: 80px;
    height: 45px;
    object-fit: cover;
    border-radius: 3px;
    flex: none;
  }
  input {
    width: 100%;
    height: 28px;
    border: 1px solid var(--g4);
    border-radius: var(--r);
    background: var(--g0);
    padding: 0 9px;
  }
`;

export interface Pickable {
  key: string;
  name: string;
  note: string;
  /** A second line: what it does, who may pass it on. */
  more?: string;
  saucer?: string;
  /** A frame under it. */
  picture?: string;
  /** The draft with this one in it. */
  seen: () => Promise<Look>;
}

/** With fewer lines than this nobody needs to search. */
const SEARCHED = 6;

/**
 * What stands in a pop-up to choose from: the line that the pointer or the keys come to is shown on the
 * picture.
 */
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
  const { contains } = useFilter({ sensitivity: "base" });
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
  const searched = items.length >= SEARCHED;
  const list = (
    <ListBox
      aria-label={props.label}
      selectionMode="none"
      autoFocus={!searched}
      items={items.map((i) => ({ ...i, id: i.key }))}
      onAction={(key) => props.onTake(String(key))}
      renderEmptyState={() => <p className="none">{items.length ? "None fits." : props.empty}</p>}
    >
      {(i) => (
        <ListBoxItem
          id={i.key}
          textValue={[i.name, i.note, i.more].filter(Boolean).join(", ")}
          onHoverStart={() => setAt(i.key)}
        >
          {({ isFocused, isFocusVisible }) => (
            <>
              {isFocused || isFocusVisible ? <Reached by={() => setAt(i.key)} /> : null}
              {i.picture ? <img className="frame" src={i.picture} alt="" loading="lazy" /> : null}
              {i.saucer ? <Saucer src={i.saucer} size={34} /> : null}
              <span>
                {i.name}
                <small>{i.note}</small>
                {i.more ? <small>{i.more}</small> : null}
              </span>
            </>
          )}
        </ListBoxItem>
      )}
    </ListBox>
  );
  return (
    <List onPointerLeave={() => setAt(null)}>
      {props.above ? <div className="above">{props.above}</div> : null}
      {searched ? (
        <Autocomplete filter={contains}>
          <SearchField aria-label={`Search ${props.label}`} autoFocus className="above">
            <Input placeholder="Search by name, words, rights" />
          </SearchField>
          {list}
        </Autocomplete>
      ) : (
        list
      )}
    </List>
  );
}

/** Tells that the keys have come to a line. */
function Reached({ by }: { by: () => void }) {
  useEffect(by, []); // eslint-disable-line react-hooks/exhaustive-deps
  return null;
}

const draftAgain = () => view({ preview: null });

/** A field that says what is chosen and opens a list to choose from. */
export function Picker(props: {
  label: string;
  shown: string;
  items: Pickable[];
  onTake: (key: string) => void;
}) {
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
