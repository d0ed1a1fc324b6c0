/** Which kinds of file: what each is for, and what prevents the others. */
import { Checkbox, CheckboxGroup } from "react-aria-components";
import styled from "styled-components";
import type { FileOffer } from "../api/types";
import { Segments } from "../kit/segments";
import { Apart } from "../kit/layout";
import type { BakeOrder, CodeRange } from "./order";

const List = styled(CheckboxGroup)`
  margin-top: 8px;
  label {
    display: grid;
    grid-template-columns: 24px 116px 1fr auto;
    align-items: center;
    gap: 4px;
    padding: 3px 0;
    border-top: 1px solid var(--line);
    cursor: pointer;
  }
  label[data-disabled] {
    cursor: default;
  }
  i {
    width: 14px;
    height: 14px;
    border-radius: 3px;
    border: 1px solid var(--t2);
  }
  label[data-selected] i {
    background: var(--accent);
    border-color: var(--accent);
  }
  label[data-focus-visible] i {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  label[data-disabled] i {
    border-style: dashed;
    border-color: var(--g4);
  }
  b {
    font-weight: 560;
  }
  label[data-disabled] b {
    color: var(--t2);
    font-weight: 400;
  }
  span {
    color: var(--t2);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    color: var(--t2);
    font-size: 12px;
  }
`;

const RANGES = [
  ["full", "full range"],
  ["narrow", "narrow"],
] as const;

export function Files(props: {
  offers: FileOffer[];
  order: BakeOrder;
  onChange: (order: Partial<BakeOrder>) => void;
}) {
  const { offers, order } = props;
  const why = (o: FileOffer["offer"]) =>
    o.why || (order.code_range === "narrow" && !o.ranged ? "has no narrow range" : "");
  const ranged = new Set(offers.filter((o) => o.offer.ranged).map((o) => o.offer.key));
  const possible = offers.filter((o) => !why(o.offer)).map((o) => o.offer.key);
  return (
    <section aria-label="Files">
      <Apart>
        <h1>Files</h1>
        <Segments
          label="Code range"
          options={RANGES}
          chosen={order.code_range}
          onChange={(code_range: CodeRange) =>
            props.onChange({
              code_range,
              kinds: order.kinds.filter((k) => code_range === "full" || ranged.has(k)),
            })
          }
        />
      </Apart>
      <List
        aria-label="Kinds of file"
        value={order.kinds.filter((k) => possible.includes(k))}
        onChange={(kinds) => props.onChange({ kinds })}
      >
        {offers.map(({ offer }) => (
          <Checkbox key={offer.key} value={offer.key} isDisabled={!!why(offer)}>
            <i />
            <b>{offer.label}</b>
            <span title={why(offer) || offer.says}>{why(offer) || offer.says}</span>
            <small>{why(offer) ? "not possible" : ""}</small>
          </Checkbox>
        ))}
      </List>
    </section>
  );
}
