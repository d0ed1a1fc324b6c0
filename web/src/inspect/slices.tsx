/** Cuts through the cube side by side. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { Apart, Quiet } from "../kit/layout";
import { Segments } from "../kit/segments";
import { Trouble } from "../kit/trouble";
import { inspection, type By, type Subject } from "./subject";

const Box = styled.section`
  border-top: 1px solid var(--line);
  padding-top: 10px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  img {
    width: 100%;
    height: auto;
    aspect-ratio: 6;
    display: block;
    background: var(--g0);
  }
  ol {
    display: grid;
    grid-template-columns: repeat(6, 1fr);
    list-style: none;
    padding: 0;
    font-size: 12px;
    color: var(--t2);
  }
  li {
    display: grid;
    white-space: nowrap;
  }
  li :first-child {
    color: var(--t1);
  }
`;
const RUNS: Record<By, string> = {
  red: "green runs right, blue up",
  green: "red runs right, blue up",
  blue: "red runs right, green up",
  lightness: "green to red runs right, blue to yellow up",
};

export function SliceRow({ subject }: { subject: Subject }) {
  const [by, setBy] = useState<By>("blue");
  const slices = useQuery({ ...inspection.slices(subject, by), placeholderData: (last) => last });
  return (
    <Box aria-label="Slices">
      <Apart>
        <h2>Slices</h2>
        <Segments
          label="Slices by"
          chosen={by}
          onChange={setBy}
          options={[
            ["red", "by red"],
            ["green", "by green"],
            ["blue", "by blue"],
            ["lightness", "by lightness"],
          ]}
        />
      </Apart>
      <Trouble error={slices.error} />
      {slices.data ? (
        <>
          <img src={slices.data.picture} alt={`Six slices of the cube by ${by}`} />
          <ol>
            {slices.data.means.map((m, k) => (
              <li key={k}>
                <span>{by === "lightness" ? Math.round(20 + 14 * k) : 20 * k} %</span>
                <span>ΔE {m.toFixed(0)}</span>
              </li>
            ))}
          </ol>
          <Quiet>{RUNS[by]}; the corner shows the slice before</Quiet>
        </>
      ) : null}
    </Box>
  );
}
