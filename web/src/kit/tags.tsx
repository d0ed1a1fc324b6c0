/** Short words that things are put under: each can be taken away, and others added. */
import { useState } from "react";
import { Button as AriaButton, Input, Tag, TagGroup, TagList, TextField } from "react-aria-components";
import styled from "styled-components";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
`;
/** Takes the room of its children alone, as the library makes a list of its own. */
const Listed = styled.div`
  .react-aria-TagList {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
`;
const One = styled(Tag)`
  background: var(--g4);
  border-radius: 13px;
  height: 26px;
  padding: 0 4px 0 11px;
  display: flex;
  align-items: center;
  gap: 4px;
`;
const Away = styled(AriaButton)`
  border: 0;
  background: none;
  cursor: pointer;
`;
const Typed = styled(Input)`
  width: 110px;
  height: 26px;
  border: 1px solid var(--g4);
  border-radius: 13px;
  background: none;
  padding: 0 10px;
`;

export function Tags(props: {
  label: string;
  /** What the field for another one says, and what it is called. */
  add: string;
  adding: string;
  tags: readonly string[];
  longest: number;
  onChange: (tags: string[]) => void;
}) {
  const { tags, onChange } = props;
  const [typed, setTyped] = useState("");
  const take = () => {
    const word = typed.trim();
    if (word && !tags.includes(word)) onChange([...tags, word]);
    setTyped("");
  };
  return (
    <Row>
      {tags.length ? (
        <Listed>
          <TagGroup aria-label={props.label} onRemove={(keys) => onChange(tags.filter((t) => !keys.has(t)))}>
            <TagList items={tags.map((t) => ({ id: t }))}>
              {(t) => (
                <One id={t.id} textValue={t.id}>
                  {t.id}
                  <Away slot="remove" aria-label={`Take ${t.id} away`}>
                    ×
                  </Away>
                </One>
              )}
            </TagList>
          </TagGroup>
        </Listed>
      ) : null}
      <TextField
        aria-label={props.adding}
        value={typed}
        onChange={setTyped}
        maxLength={props.longest}
        onBlur={take}
      >
        <Typed placeholder={props.add} onKeyDown={(e) => e.key === "Enter" && take()} />
      </TextField>
    </Row>
  );
}
