/** What the files say of themselves, who may pass them on, and what they are called. */
import styled from "styled-components";
import type { FileOffer } from "../api/types";
import { Pair } from "../kit/layout";
import { NameParts } from "../kit/nameparts";
import { Radios } from "../kit/radios";
import { Text } from "../kit/text";
import type { BakeOrder } from "./order";

const Box = styled.section`
  display: grid;
  gap: 10px;
  .line {
    display: grid;
    grid-template-columns: 72px 1fr;
    align-items: center;
    gap: 10px;
  }
  .line > span {
    color: var(--t2);
  }
  p {
    color: var(--t2);
    overflow-wrap: anywhere;
  }
  p b {
    color: var(--t1);
    font-weight: 560;
  }
`;
export const RIGHTS = ["to anyone", "inside the studio", "inside the project", "ask first"];
const PARTS: Record<string, string> = {
  look: "look",
  revision: "revision",
  in: "comes in as",
  out: "goes out as",
  grid: "grid",
  method: "method",
  maker: "who bakes",
};

export function Naming(props: {
  order: BakeOrder;
  offers: FileOffer[];
  onChange: (order: Partial<BakeOrder>) => void;
}) {
  const { order, onChange } = props;
  const named = props.offers.filter((o) => order.kinds.includes(o.offer.key) && !o.offer.why);
  return (
    <Box aria-label="What the files say">
      <Pair>
        <Text label="Title" value={order.title} onChange={(title) => onChange({ title })} maxLength={200} />
        <Text
          label="Note"
          hint="what it is good for"
          value={order.note}
          onChange={(note) => onChange({ note })}
          maxLength={2000}
        />
      </Pair>
      <div className="line">
        <span>Pass on</span>
        <Radios
          label="Who may pass it on"
          chosen={order.rights}
          onChange={(rights) => onChange({ rights })}
          options={RIGHTS.map((r) => ({ key: r, label: r }))}
        />
      </div>
      <div className="line">
        <span>File name</span>
        <NameParts parts={order.parts} all={PARTS} onChange={(parts) => onChange({ parts })} />
      </div>
      <p>
        {named.length ? (
          named.map(({ name, offer }, k) => (
            <span key={offer.key}>
              {k ? " · " : ""}
              <b>{name}</b>
            </span>
          ))
        ) : (
          <span>Choose a kind of file to see what it will be called.</span>
        )}
        <br />
        Encodings, look, revision, checksum, rights and note go into every file that has room; pictures have
        none.
      </p>
    </Box>
  );
}
