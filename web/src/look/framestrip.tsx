/** The frames under a revision, one of them chosen. */
import { Radio, RadioGroup } from "react-aria-components";
import styled from "styled-components";
import type { Frame, Revision } from "../api/types";
import { stillOf } from "../catalogue/card";
import { around } from "../kit/partshown";

const Row = styled(RadioGroup)`
  display: flex;
  gap: 8px;
  overflow-x: auto;
  flex: none;
  padding: 3px;
  margin: -3px;
  label {
    width: 78px;
    flex: none;
    cursor: pointer;
    color: var(--t2);
    font-size: 12px;
  }
  label span {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    margin-bottom: 2px;
  }
  img {
    width: 78px;
    height: 44px;
    object-fit: cover;
    display: block;
    border-radius: 3px;
  }
  label[data-selected] {
    color: var(--t1);
  }
  label[data-selected] img {
    box-shadow:
      0 0 0 1.5px var(--g0),
      0 0 0 3px var(--t1);
  }
  label[data-focus-visible] img {
    box-shadow: 0 0 0 2px var(--accent);
  }
`;

export function FrameStrip(props: {
  frames: Frame[];
  chosen: number | null;
  revision: Revision;
  onChoose: (id: number) => void;
}) {
  return (
    <Row
      aria-label="Frames"
      orientation="horizontal"
      value={props.chosen === null ? "" : String(props.chosen)}
      onChange={(v) => props.onChoose(Number(v))}
    >
      {props.frames.map((f) => (
        <Radio key={f.id} value={String(f.id)} aria-label={f.name}>
          <span>{f.name}</span>
          <img src={stillOf(props.revision, f, 160)} alt="" loading="lazy" style={around(f.part)} />
        </Radio>
      ))}
    </Row>
  );
}
