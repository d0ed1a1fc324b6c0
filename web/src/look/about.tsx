/** Who a look is: its saucer, its words, its tags, and its traits beside those of all looks. */
import { KeyCap } from "../kit/keycap";
import styled from "styled-components";
import { useEncodingLabel, useMe } from "../api/queries";
import type { Card, LookRecord, Revision } from "../api/types";
import { useFilterValues, useScales } from "../catalogue/asked";
import { Grow, Quiet, Said } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { Tags } from "./tags";
import { Traits } from "./traits";

const Who = styled.div`
  display: flex;
  gap: 16px;
  align-items: center;
  h1 {
    display: inline;
    margin-right: 10px;
  }
  p {
    max-width: 74ch;
  }
`;
const Keys = styled.div`
  color: var(--t2);
  font-size: 12px;
  display: flex;
  gap: 14px;
`;

export function About(props: { look: LookRecord; revision: Revision; card: Card | undefined }) {
  const { look, revision, card } = props;
  const { data: me } = useMe();
  const { data: scales = [] } = useScales();
  const filterValues = useFilterValues({});
  const label = useEncodingLabel();
  return (
    <>
      <Who>
        <Saucer src={saucerOf(revision, 256)} size={96} of={look.name} />
        <div>
          <h1>{look.name}</h1>
          <Quiet>
            {look.maker} · {label(revision.input)} → {label(revision.output)}
          </Quiet>
          <div>{card?.words.join(", ")}</div>
          {look.note ? <Said>{look.note}</Said> : null}
          {card ? (
            <Tags key={card.tags.join()} look={look.id} tags={card.tags} may={me?.may_design ?? false} />
          ) : null}
        </div>
      </Who>
      {card ? <Traits card={card} scales={scales} bars={filterValues.data?.all_bars ?? {}} /> : null}
      <Keys>
        <span>bars: all looks; white: this one; dotted: unchanged</span>
        <Grow />
        <span>
          <KeyCap>,</KeyCap> <KeyCap>.</KeyCap> frame
        </span>
        <span>
          <KeyCap>1</KeyCap> – <KeyCap>4</KeyCap> seeing
        </span>
        <span>
          <KeyCap>P</KeyCap> pin a note
        </span>
      </Keys>
    </>
  );
}
