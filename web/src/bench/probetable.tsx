/** The probe: what a spot of the picture was and is, in numbers. */
import styled from "styled-components";
import type { Pair, Readings, Spot } from "../api/types";
import { signed } from "../kit/signed";
import { usePointed } from "./pointed";

const Table = styled.table`
  border-collapse: collapse;
  width: 100%;
  font-size: 11.5px;
  white-space: nowrap;
  th {
    font-weight: 400;
    color: var(--t2);
    text-align: left;
    padding: 0 5px 1px 0;
  }
  td {
    padding: 1px 5px 1px 0;
  }
  .none {
    color: var(--t2);
    white-space: normal;
  }
  .more td {
    color: var(--t2);
    padding-bottom: 3px;
  }
  i {
    display: inline-block;
    width: 11px;
    height: 11px;
    border-radius: 50%;
    vertical-align: -1px;
    border: 1px solid var(--shade);
  }
`;

const eight = (s: Spot) => s.eight.join(" ");
const lch = (s: Spot) => `${Math.round(s.lightness * 100)} · ${s.chroma.toFixed(3)} · ${Math.round(s.hue)}°`;

/** So far a colour may be from the line of skin and still be asked whether it is skin. */
const NEAR_SKIN = 30;

/** What becomes of a hue, and how far it is from skin where it is near. */
function Hue({ found: { before, after } }: { found: Pair }) {
  if (Math.min(before.chroma, after.chroma) < 0.01) return <td colSpan={3}>no hue to speak of</td>;
  const skin = Math.abs(after.from_skin) <= NEAR_SKIN ? `, ${signed(after.from_skin, 0)}° from skin` : "";
  return <td colSpan={3}>{`hue ${Math.round(before.hue)}° → ${Math.round(after.hue)}°${skin}`}</td>;
}

function Line({ name, found, wide }: { name: string; found: Pair; wide: boolean }) {
  return (
    <tr>
      <td>{name}</td>
      <td>
        <i style={{ background: found.before.css }} /> {eight(found.before)}
      </td>
      <td>
        <i style={{ background: found.after.css }} /> {eight(found.after)}
      </td>
      {wide ? (
        <>
          <td>{found.after.ten.join(" ")}</td>
          <td>{found.after.percent.map((v) => v.toFixed(1)).join(" ")}</td>
          <td>{found.after.linear.map((v) => v.toPrecision(3)).join(" ")}</td>
          <td>{lch(found.before)}</td>
          <td>{lch(found.after)}</td>
          <td>{`${signed(found.after.from_skin, 0)}°`}</td>
        </>
      ) : null}
    </tr>
  );
}

export function ProbeTable({ read, wide }: { read: Readings; wide: boolean }) {
  const found = usePointed((s) => s.found);
  const none = !found && !read.spots.length;
  return (
    <Table aria-label="Probe">
      <thead>
        <tr>
          <th>spot</th>
          <th>before, 8-bit</th>
          <th>after</th>
          {wide ? (
            <>
              <th>10-bit</th>
              <th>%</th>
              <th>linear light</th>
              <th>L · C · h before</th>
              <th>L · C · h after</th>
              <th>from skin</th>
            </>
          ) : null}
        </tr>
      </thead>
      <tbody>
        {found ? <Line name="here" found={found} wide={wide} /> : null}
        {found && !wide ? (
          <tr className="more">
            <Hue found={found} />
          </tr>
        ) : null}
        {read.spots.map((s, k) => (
          <Line key={k} name={String(k + 1)} found={s} wide={wide} />
        ))}
        {none ? (
          <tr>
            <td colSpan={wide ? 9 : 3} className="none">
              Point at the picture. A click pins a spot, up to six.
            </td>
          </tr>
        ) : null}
      </tbody>
    </Table>
  );
}
