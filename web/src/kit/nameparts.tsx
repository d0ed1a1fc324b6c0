/** The parts that a file's name is made of, in order: taken out, and added at the end. */
import { Tag, TagGroup, TagList } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button";
import { Choice } from "./choice";

const Row = styled.div`
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
  .list {
    display: flex;
    gap: 6px;
    flex-wrap: wrap;
  }
  .part {
    background: var(--g3);
    border-radius: 4px;
    padding: 2px 4px 2px 8px;
    display: inline-flex;
    align-items: center;
    gap: 2px;
  }
  .part[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
  .part button {
    border: 0;
    background: none;
    color: var(--t2);
    cursor: pointer;
    padding: 0 4px;
  }
`;

export function NameParts<P extends string>(props: {
  parts: readonly P[];
  all: Record<P, string>;
  onChange: (parts: P[]) => void;
}) {
  const free = (Object.keys(props.all) as P[]).filter((p) => !props.parts.includes(p));
  return (
    <Row>
      <TagGroup
        aria-label="Parts of the file name"
        onRemove={(gone) => {
          const parts = props.parts.filter((p) => !gone.has(p));
          if (parts.length) props.onChange(parts);
        }}
      >
        <TagList className="list" items={props.parts.map((id) => ({ id }))}>
          {({ id }) => (
            <Tag className="part" textValue={props.all[id]}>
              {props.all[id]}
              <Button slot="remove" look="icon">
                ✕
              </Button>
            </Tag>
          )}
        </TagList>
      </TagGroup>
      {free.length ? (
        <Choice
          look="bare"
          hidden
          label="Add a part"
          empty="+ part"
          chosen={null}
          options={free.map((p) => ({ key: p, label: props.all[p] }))}
          onChange={(p) => props.onChange([...props.parts, p])}
        />
      ) : null}
    </Row>
  );
}
