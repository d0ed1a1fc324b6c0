/** A look of a pack as a row: what it is, how it is read, what is wrong with it. */

import { GridListItem } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { useEncodingLabel } from "../api/queries";
import type { EncodingKey, Frame, PackItem } from "../api/types";
import { Button } from "../kit/button";
import { Saucer } from "../kit/saucer";
import { Tick } from "../kit/tick";
import { around } from "../kit/partshown";
import { inspectorOf } from "../inspect/subject";
import { Encodings } from "./encodings";
import { toLookAt, unread, unsure } from "./judging";
import { COLUMNS, ROW } from "./columns";

const Row = styled(GridListItem)`
  display: grid;
  grid-template-columns: ${COLUMNS};
  gap: 0 12px;
  align-items: center;
  height: ${ROW}px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  outline-offset: -2px !important;
  &[data-hovered],
  &[data-focused] {
    background: var(--g2);
  }
  > * {
    min-width: 0;
  }
  .name strong,
  .name small,
  .health span,
  .health small,
  .form span {
    display: block;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .name strong {
    font-weight: 600;
  }
  .name a {
    text-decoration: none;
  }
  .name a:hover {
    text-decoration: underline;
  }
  small {
    color: var(--t2);
    font-size: 12px;
  }
  .form {
    color: var(--t2);
    font-size: 12px;
  }
  .pictures {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 3px;
  }
  .pictures img {
    width: 100%;
    height: 44px;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--g0);
  }
  .pictures .none {
    grid-column: 1 / -1;
    height: 44px;
    border: 1px dashed var(--g4);
    border-radius: 3px;
    display: grid;
    place-items: center;
    color: var(--t2);
    font-size: 12px;
  }
  .warn {
    color: var(--warn);
  }
  &.out .name strong,
  &.out .pair {
    color: var(--t2);
  }
  .twin {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  .fixed {
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

export function ItemRow(props: {
  item: PackItem;
  frame: Frame | null;
  onSay: (said: { chosen?: boolean; expects?: EncodingKey; gives?: EncodingKey }) => void;
}) {
  const { item, frame } = props;
  const read = `${item.expects}-${item.gives}-${item.name}`;
  const bad = unread(item);
  return (
    <Row id={String(item.id)} textValue={item.name} className={item.chosen && !bad ? "" : "out"}>
      <Tick slot="selection" aria-label={`Keep ${item.name}`} />
      <Saucer
        src={bad || item.kept ? null : `/api/packs/items/${item.id}/saucer?size=112&v=${read}`}
        size={42}
        of={item.name}
      />
      <div className="name">
        <strong>
          {bad || item.kept ? (
            item.name
          ) : (
            <Link to={inspectorOf({ kind: "item", key: item.id })}>{item.name}</Link>
          )}
        </strong>
        <small>{bad ? "" : item.words.slice(0, 3).join(", ")}</small>
      </div>
      <div className="pictures">
        {bad || !frame || item.kept ? (
          <span className="none">{item.kept ? "kept" : bad ? "no picture" : "no frame"}</span>
        ) : (
          <>
            <img
              src={`/api/frames/${frame.id}/still?width=320&v=${frame.version}`}
              alt=""
              loading="lazy"
              style={around(frame.part)}
            />
            <img
              src={`/api/packs/items/${item.id}/still?frame=${frame.id}&width=320&v=${read}`}
              alt={`${frame.name} under ${item.name}`}
              loading="lazy"
              style={around(frame.part)}
            />
          </>
        )}
      </div>
      <div className="form">
        {item.form.split(", ").map((part) => (
          <span key={part}>{part}</span>
        ))}
      </div>
      {bad ? <small>not known</small> : <Encodings item={item} onSay={props.onSay} />}
      <Health item={item} onKeep={() => props.onSay({ chosen: true })} />
    </Row>
  );
}

/** Damage, twins and doubts of one row, the gravest first. */
function Health({ item, onKeep }: { item: PackItem; onKeep: () => void }) {
  const label = useEncodingLabel();
  if (unread(item)) {
    return (
      <div className="health">
        <span className="warn">cannot be read</span>
        <small title={item.reason}>{item.reason}</small>
      </div>
    );
  }
  if (item.twin) {
    return (
      <div className="health">
        <span>
          {item.twin.same ? "the same as" : "twin of"} {item.twin.name}
        </span>
        <small className="twin">
          ΔE {item.twin.apart.toFixed(2)}, {item.chosen ? "kept beside it" : "left out"}
          {item.chosen || item.kept ? null : (
            <Button look="quiet" onPress={onKeep}>
              keep both
            </Button>
          )}
        </small>
      </div>
    );
  }
  const [first, ...more] = item.findings;
  const rival = unsure(item) ? item.guess?.rival : null;
  if (rival && rival.apart < item.far) {
    return (
      <div className="health" title={item.findings.join("\n")}>
        <span className="warn">changes a picture by ΔE {item.far.toFixed(1)}</span>
        <small>
          as {label(rival.expects)} → {label(rival.gives)} by {rival.apart.toFixed(1)}
        </small>
      </div>
    );
  }
  return (
    <div className="health" title={item.findings.join("\n")}>
      <span className={toLookAt(item) && item.serious ? "warn" : ""}>{first ?? "sound"}</span>
      <small>{more.length ? more.join("; ") : `changes a picture by ΔE ${item.far.toFixed(1)}`}</small>
    </div>
  );
}
