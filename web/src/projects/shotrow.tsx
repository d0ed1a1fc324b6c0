/** A shot as a row: what it is, before, the looks on it, after, and how it sits in its scene. */
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import type { OnWall, Shot } from "../api/types";
import { trimWords } from "../kit/trim";
import { around } from "../kit/partshown";
import { beforeOf, layerWords, readingWords, stillOf } from "./asked";
import { Layers } from "./layers";
import { Tick } from "./tick";

const Row = styled.li`
  display: grid;
  grid-template-columns: 24px minmax(120px, 165px) 138px 12px minmax(150px, 1fr) 12px 138px 104px;
  align-items: center;
  gap: 10px;
  padding: 8px 8px 8px 0;
  border-bottom: 1px solid var(--line);
  &.chosen {
    background: var(--g1);
  }
  small {
    color: var(--t2);
    display: block;
    font-size: 12px;
  }
  b {
    font-weight: 560;
  }
  img.pic,
  .none {
    width: 138px;
    height: 78px;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    background: var(--field);
  }
  .none {
    border: 1px dashed var(--g4);
    display: grid;
    place-items: center;
    color: var(--t2);
    font-size: 12px;
  }
  .arrow {
    color: var(--t3);
  }
  .after {
    padding: 0;
    border: 0;
    background: none;
    cursor: pointer;
    border-radius: 3px;
  }
  .after[data-hovered] img,
  .after[data-focus-visible] img {
    outline: 2px solid var(--accent);
    outline-offset: 1px;
  }
  .warn {
    color: var(--warn);
  }
  .figures {
    color: var(--t2);
    font-size: 12px;
  }
  @media (max-width: 1150px) {
    grid-template-columns: 24px minmax(96px, 130px) 110px 8px minmax(110px, 1fr) 8px 110px 84px;
    img.pic,
    .none {
      width: 110px;
      height: 62px;
    }
  }
`;

/** How a shot sits: what it stands out by, or its figures. */
function Figures({ on }: { on: OnWall | undefined }) {
  if (!on) return <span className="figures" />;
  const [first] = on.apart;
  if (first) return <span className="figures warn">{first.text}</span>;
  return <span className="figures">{readingWords(on.reading)}</span>;
}

export function ShotRow(props: {
  project: number;
  shot: Shot;
  on: OnWall | undefined;
  chosen: boolean;
  label: (encoding: string) => string;
  onChoose: (on: boolean) => void;
  onOpen: () => void;
}) {
  const { shot: s } = props;
  const from = s.given_by === "shot" ? "its own" : s.given_by ? `from the ${s.given_by}` : "";
  const frames = s.cut ? s.cut.last - s.cut.first + 1 : 0;
  return (
    <Row className={props.chosen ? "chosen" : ""} aria-label={s.name}>
      <Tick aria-label={`Choose ${s.name}`} isSelected={props.chosen} onChange={props.onChoose} />
      <span>
        <b>
          {s.number} · {s.name}
        </b>
        <small>
          {props.label(s.frame.encoding)}
          {s.cut ? ` · ${frames} frames` : ""}
        </small>
        <small>trim {trimWords(s.trim)}</small>
      </span>
      <img
        className="pic"
        src={beforeOf(s)}
        alt={`${s.name} before`}
        loading="lazy"
        style={around(s.frame.part)}
      />
      <span className="arrow" aria-hidden>
        ›
      </span>
      <Layers puts={s.layers} size={44} from={from} />
      <span className="arrow" aria-hidden>
        ›
      </span>
      <AriaButton
        className="after"
        aria-label={`Trim ${s.name}, ${layerWords(s) ? `under ${layerWords(s)}` : "no look yet"}`}
        onPress={props.onOpen}
      >
        {s.layers.length ? (
          <img
            className="pic"
            src={stillOf(props.project, s)}
            alt={`${s.name} after`}
            loading="lazy"
            style={around(s.frame.part)}
          />
        ) : (
          <span className="none">no look yet</span>
        )}
      </AriaButton>
      <Figures on={props.on} />
    </Row>
  );
}
