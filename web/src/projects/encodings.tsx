/**
 * In which encodings a project is delivered, and what each of them loses of its pictures in gamut and
 * highlights.
 */
import { useQueries } from "@tanstack/react-query";
import styled from "styled-components";
import { declared } from "../api/declared";
import { useEncodings } from "../api/queries";
import type { EncodingKey, Loss, Plan, Project } from "../api/types";
import { Choice } from "../kit/choice";
import { Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { askedOfProject } from "./asked";
import { Tick } from "./tick";

const Box = styled.section`
  h2 {
    padding-bottom: 8px;
    border-bottom: 1px solid var(--line);
  }
  .row {
    display: grid;
    grid-template-columns: minmax(96px, 1fr) minmax(0, 116px) minmax(0, 116px);
    gap: 12px;
    align-items: center;
    padding: 9px 0;
    border-bottom: 1px solid var(--line);
    font-size: 12px;
  }
  .more {
    padding: 9px 0;
    width: 220px;
  }
  .white {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
    padding: 9px 0;
    font-size: 12px;
  }
  .row.names {
    color: var(--t2);
    padding: 6px 0;
  }
  .bar {
    display: block;
    height: 6px;
    background: var(--g4);
    border-radius: 3px;
    overflow: hidden;
    margin-bottom: 4px;
  }
  .bar i {
    display: block;
    height: 6px;
    background: var(--t1);
  }
  .much .bar i {
    background: var(--warn);
  }
  .much {
    color: var(--warn);
  }
`;

/** Offered beside those that are chosen; any other display encoding can be added. */
const OFFERED: EncodingKey[] = declared.delivered;
/** Where PQ and HLG show the white of a standard display, cd/m². */
const WHITES = [
  ["203", "203"],
  ["100", "100"],
] as const;
/** From this share on people should look. */
const MUCH = 0.1;

function Lost(props: { share: number; shot: number | null; most: number }) {
  const much = props.share > MUCH;
  return (
    <span className={much ? "much" : ""}>
      <span className="bar">
        <i style={{ width: `${Math.min(100, props.share * 100)}%` }} />
      </span>
      {props.share < 0.0005 ? "none" : `${(props.share * 100).toFixed(1)} %`}
      {props.shot !== null && props.most > 0.01
        ? `, shot ${props.shot} ${(props.most * 100).toFixed(0)} %`
        : ""}
    </span>
  );
}

export function Encodings(props: { project: Project; plan: Plan; onChange: (said: Partial<Plan>) => void }) {
  const { plan, onChange } = props;
  const { data: encodings = [] } = useEncodings();
  const keys = [...new Set([...OFFERED, ...plan.encodings])];
  const losses = useQueries({ queries: keys.map((key) => askedOfProject.loss(props.project.id, key)) });
  const others = encodings.filter((e) => e.offered && e.referred === "display" && !keys.includes(e.key));
  const label = (key: string) => encodings.find((e) => e.key === key)?.label ?? key;
  const put = (key: EncodingKey, on: boolean) =>
    onChange({ encodings: on ? [...plan.encodings, key] : plan.encodings.filter((e) => e !== key) });
  const cell = (loss: Loss | undefined, what: "gamut" | "lights") =>
    loss ? (
      what === "gamut" ? (
        <Lost share={loss.gamut} shot={loss.worst_gamut} most={loss.worst_gamut_share} />
      ) : (
        <Lost share={loss.lights} shot={loss.worst_lights} most={loss.worst_lights_share} />
      )
    ) : (
      <Quiet>measuring …</Quiet>
    );
  return (
    <Box aria-label="In which encodings">
      <h2>
        In which encodings
        <small>
          {plan.encodings.length ? "measured on the shots" : "none chosen: each look gives its own"}
        </small>
      </h2>
      <div className="row names">
        <span />
        <span>colours brought in</span>
        <span>lights gone flat</span>
      </div>
      {keys.map((key, k) => (
        <div className="row" key={key}>
          <Tick isSelected={plan.encodings.includes(key)} onChange={(on) => put(key, on)}>
            {label(key)}
          </Tick>
          {cell(losses[k]?.data, "gamut")}
          {cell(losses[k]?.data, "lights")}
        </div>
      ))}
      <div className="more">
        <Choice
          look="bare"
          hidden
          label="Another encoding"
          empty="+ another encoding"
          chosen={null}
          options={others.map((e) => ({ key: e.key, label: e.label }))}
          onChange={(key) => put(key, true)}
        />
      </div>
      {keys.some((key) => plan.encodings.includes(key) && encodings.find((e) => e.key === key)?.hdr) ? (
        <div className="white">
          <span>White of a standard display</span>
          <Segments
            label="White of a standard display in PQ and HLG"
            options={WHITES}
            chosen={String(plan.white)}
            onChange={(white) => onChange({ white: white === "100" ? 100 : 203 })}
          />
          <span>cd/m²</span>
        </div>
      ) : null}
      <Quiet>
        Into another encoding chroma is eased in and hue is kept; what is brighter than its white goes flat.
        In PQ and HLG the white of a standard display lies at 203 cd/m² (ITU-R BT.2408), and tables have at
        least 65 points.
      </Quiet>
    </Box>
  );
}
