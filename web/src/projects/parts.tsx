/**
 * What goes out: the parts of a delivery, how many files each would have, and how tables, stills and clips
 * are made.
 */
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import styled from "styled-components";
import type { Outlook, Plan, Project } from "../api/types";
import { Choice } from "../kit/choice";
import { Quiet } from "../kit/layout";
import { Switch } from "../kit/switch";
import { askedOfProject } from "./asked";
import { ReviewSettings } from "./reviewsettings";
import { Tick } from "./tick";

const Box = styled.section`
  .row {
    display: flex;
    gap: 10px;
    align-items: center;
    min-height: 36px;
    border-bottom: 1px solid var(--line);
  }
  .row > span:last-child {
    margin-left: auto;
    text-align: right;
  }
  b {
    font-weight: 560;
  }
  h2 {
    padding-bottom: 8px;
    border-bottom: 1px solid var(--line);
  }
`;

type Part = Plan["parts"][number];
const SAID: Record<Part, string> = {
  looks: "each look by itself",
  shots: "trim, look and strength in one",
  cdl: "trims alone, .ccc",
  ocio: "looks and shots",
  recipes: "still editable",
  stills: "",
  clips: "",
  review: "all shots in one, H.264",
  sheet: "one page, HTML",
  cut: "with looks, .otio and .edl",
};
const GRIDS = [17, 33, 65];

export function Parts(props: {
  project: Project;
  plan: Plan;
  outlook: Outlook | undefined;
  onChange: (said: Partial<Plan>) => void;
}) {
  const { plan, onChange } = props;
  const { data: choices } = useQuery(askedOfProject.choices);
  const all = props.outlook?.parts ?? [];
  const options = (from: Record<string, string> = {}) =>
    Object.entries(from).map(([key, label]) => ({ key, label }));
  const chosen = all.filter((p) => plan.parts.includes(p.part)).length;
  return (
    <Box aria-label="What goes out">
      <h2>
        What goes out
        <small>
          {chosen} of {all.length || Object.keys(SAID).length} parts
        </small>
      </h2>
      {all.map((p) => {
        const part = p.part;
        const on = plan.parts.includes(part);
        return (
          <Fragment key={part}>
            <div className="row">
              <Tick
                isSelected={on}
                isDisabled={!p.total}
                onChange={(to) =>
                  onChange({ parts: to ? [...plan.parts, part] : plan.parts.filter((x) => x !== part) })
                }
              >
                <b>{p.label}</b>
              </Tick>
              {part === "looks" || part === "shots" ? (
                <Choice
                  look="bare"
                  hidden
                  label={`Grid of ${p.label}`}
                  disabled={!on}
                  chosen={String(plan.grid)}
                  onChange={(grid) => onChange({ grid: Number(grid) })}
                  options={GRIDS.map((g) => ({ key: String(g), label: `${g}³` }))}
                />
              ) : null}
              {part === "stills" ? (
                <Choice
                  look="bare"
                  hidden
                  label="Kind of still"
                  disabled={!on}
                  chosen={plan.picture}
                  onChange={(picture) => onChange({ picture })}
                  options={options(choices?.pictures)}
                />
              ) : null}
              {part === "clips" ? (
                <Choice
                  look="bare"
                  hidden
                  label="Kind of clip"
                  disabled={!on}
                  chosen={plan.clip}
                  onChange={(clip) => onChange({ clip })}
                  options={options(choices?.clips)}
                />
              ) : null}
              <Quiet>{SAID[part]}</Quiet>
              <Quiet>{p.total || "none"}</Quiet>
            </div>
            {part === "review" && on ? (
              <ReviewSettings
                project={props.project}
                review={plan.review}
                onChange={(said) => onChange({ review: { ...plan.review, ...said } })}
              />
            ) : null}
          </Fragment>
        );
      })}
      <div className="row">
        <Switch
          label="Stills and clips with the looks’ Finish"
          on={plan.finish}
          onChange={(finish) => onChange({ finish })}
        />
        <span />
      </div>
    </Box>
  );
}
