/** The looks on a shot, a scene or a project: their saucers, names, revisions and strengths. */
import styled from "styled-components";
import type { Put } from "../api/types";
import { Saucer, saucerOf } from "../kit/saucer";

const Row = styled.span`
  display: flex;
  gap: 10px;
  align-items: center;
  min-width: 0;
  b {
    font-weight: 560;
    overflow-wrap: anywhere;
  }
  small {
    color: var(--t2);
    display: block;
    font-size: 12px;
  }
  .names {
    min-width: 0;
  }
  .pile {
    display: flex;
    flex: none;
  }
  .pile > * + * {
    margin-left: -38%;
    box-shadow: 0 0 0 2px var(--g0);
  }
`;

const said = (p: Put) => `r${p.revision?.number ?? ""} · ${Math.round(p.strength * 100)} %`;

export function Layers(props: { puts: readonly Put[]; size: number; from?: string; short?: boolean }) {
  const on = props.puts.filter((p) => p.revision);
  if (!on.length) {
    return (
      <Row>
        <span>
          <b>no look</b>
          {props.from ? <small>{props.from}</small> : null}
        </span>
      </Row>
    );
  }
  return (
    <Row>
      <span className="pile">
        {on.map((p, k) => (
          <Saucer key={k} src={saucerOf(p.revision!)} size={props.size} />
        ))}
      </span>
      <span className="names">
        {on.map((p, k) => (
          <span key={k}>
            <b>
              {k ? "+ " : ""}
              {p.revision!.look_name}
            </b>
            <small>
              {said(p)}
              {k === on.length - 1 && props.from ? ` · ${props.from}` : ""}
            </small>
          </span>
        ))}
      </span>
    </Row>
  );
}
