/** A frame among the others: its picture, what it is, and whether it is chosen. */
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { useEncodingLabel } from "../api/queries";
import type { Frame } from "../api/types";
import { Warned } from "../kit/layout";
import { Tick } from "../kit/tick";
import { trimWords } from "../kit/trim";

const Card = styled.article`
  position: relative;
  min-width: 0;
`;
const Open = styled(AriaButton)`
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
  border-radius: 4px;
  display: block;
  width: 100%;
`;
const Picture = styled.img`
  width: 100%;
  aspect-ratio: 16/9;
  object-fit: contain;
  background: var(--field);
  display: block;
  border-radius: 4px;
  ${Open}[data-hovered] &,
  ${Open}[data-focus-visible] & {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
`;
const Chosen = styled.span`
  position: absolute;
  left: 8px;
  top: 8px;
  padding: 4px;
  border-radius: 6px;
  background: var(--over);
`;
const About = styled.div`
  display: flex;
  justify-content: space-between;
  padding-top: 7px;
  gap: 10px;
`;
const Name = styled.b`
  font-weight: 560;
`;
const Small = styled.small`
  color: var(--t2);
  font-size: 12px;
  display: block;
`;
const Recorded = styled(Small)`
  text-align: right;
`;

export function FrameCard(props: {
  frame: Frame;
  chosen: boolean;
  onChoose: (on: boolean) => void;
  onOpen: () => void;
}) {
  const { frame: f } = props;
  const label = useEncodingLabel();
  const assumed = f.encoding_by.startsWith("assumed") || f.encoding_by.startsWith("guessed");
  return (
    <Card>
      <Open onPress={props.onOpen} aria-label={`Open ${f.name}`}>
        <Picture src={`/api/frames/${f.id}/still?width=480&v=${f.version}`} alt="" loading="lazy" />
      </Open>
      <Chosen>
        <Tick aria-label={`Choose ${f.name}`} isSelected={props.chosen} onChange={props.onChoose} />
      </Chosen>
      <About>
        <span>
          <Name>{f.name}</Name>
          <Small title={f.encoding_by ? `Encoding: ${f.encoding_by}` : undefined}>
            {[f.light, label(f.encoding)].filter(Boolean).join(" · ")}
          </Small>
          {assumed ? <Small>{f.encoding_by}</Small> : null}
          {f.sets.length ? <Small>in {f.sets.join(", ")}</Small> : null}
        </span>
        <Recorded>
          {f.clip ? "clip" : `${f.kind} ${f.depth}`}, {f.width} × {f.height}
          <br />
          trim {trimWords(f.trim)}
        </Recorded>
      </About>
      {f.doubt ? <Warned>{f.doubt}</Warned> : null}
      {f.notes.length ? <Small>{f.notes.join("; ")}</Small> : null}
      {f.unread.length ? <Small>Not read: {f.unread.join("; ")}</Small> : null}
    </Card>
  );
}
