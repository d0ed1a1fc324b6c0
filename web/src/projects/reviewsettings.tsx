/** What a review clip is: which shots, how large, and what the line under the picture says. */
import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import type { Project, ReviewPlan } from "../api/types";
import { Choice } from "../kit/choice";
import { Quiet } from "../kit/layout";
import { Text } from "../kit/text";
import { askedOfProject } from "./asked";
import { Tick } from "./tick";

const Box = styled.div`
  display: grid;
  gap: 10px;
  padding: 10px 0 12px;
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
`;

const WHOLE = "whole";
type SlatePart = ReviewPlan["slate"][number];

export function ReviewSettings(props: {
  project: Project;
  review: ReviewPlan;
  onChange: (said: Partial<ReviewPlan>) => void;
}) {
  const { project, review, onChange } = props;
  const { data: choices } = useQuery(askedOfProject.choices);
  const kinds = Object.entries(choices?.reviews ?? {}) as [ReviewPlan["kind"], string][];
  const parts = Object.entries(choices?.slate ?? {}) as [SlatePart, string][];
  const put = (part: SlatePart, on: boolean) =>
    onChange({
      slate: parts.map(([key]) => key).filter((key) => (key === part ? on : review.slate.includes(key))),
    });
  return (
    <Box role="group" aria-label="Review clip">
      <Row>
        <Choice
          hidden
          label="Shots of the review clip"
          chosen={review.scene === null ? WHOLE : String(review.scene)}
          onChange={(key) => onChange({ scene: key === WHOLE ? null : Number(key) })}
          options={[
            { key: WHOLE, label: "The whole reel" },
            ...project.scenes.map((s) => ({ key: String(s.id), label: s.name })),
          ]}
        />
        <Choice
          hidden
          label="Size of the review clip"
          chosen={String(review.rows)}
          onChange={(rows) => onChange({ rows: Number(rows) })}
          options={Object.entries(choices?.rows ?? {}).map(([key, label]) => ({ key, label }))}
        />
        <Choice
          hidden
          label="Kind of review clip"
          chosen={review.kind}
          onChange={(kind) => onChange({ kind })}
          options={kinds.map(([key, label]) => ({ key, label }))}
        />
      </Row>
      <Row role="group" aria-label="The line under the picture says">
        <Quiet>Under the picture</Quiet>
        {parts.map(([key, label]) => (
          <Tick key={key} isSelected={review.slate.includes(key)} onChange={(on) => put(key, on)}>
            {label}
          </Tick>
        ))}
      </Row>
      {review.slate.includes("for") ? (
        <Text label="For whom" value={review.whom} onChange={(whom) => onChange({ whom })} maxLength={80} />
      ) : null}
    </Box>
  );
}
