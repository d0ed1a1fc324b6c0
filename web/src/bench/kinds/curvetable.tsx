/** The points of a curve as numbers, in a unit of one's choice. */
import styled from "styled-components";
import type { CurvePoint } from "../../api/types";
import { Button } from "../../kit/button";
import { Choice } from "../../kit/choice";
import { NumberBox } from "../../kit/numberbox";

/** How much a code value of 1 is in each unit, and the digits that are shown. */
export const UNITS = { "0–1": 1, "%": 100, "8-bit": 255, "10-bit": 1023 } as const;
export type Unit = keyof typeof UNITS;
const DIGITS: Record<Unit, number> = { "0–1": 4, "%": 2, "8-bit": 1, "10-bit": 0 };
export const shownAs = (value: number, unit: Unit) => Number((value * UNITS[unit]).toFixed(4));

const Points = styled.table`
  width: 100%;
  border-collapse: collapse;
  margin-top: 2px;
  th {
    font-weight: 400;
    color: var(--t2);
    text-align: right;
    padding: 4px 0;
    font-size: 12px;
  }
  th:first-child,
  td:first-child {
    text-align: left;
    padding-left: 8px;
  }
  td {
    text-align: right;
    padding: 1px 0;
  }
  td:last-child {
    width: 30px;
  }
  tr.chosen {
    background: var(--g3);
  }
  tbody tr {
    border-bottom: 1px solid var(--g3);
  }
`;

function Row(props: {
  point: CurvePoint;
  place: number;
  unit: Unit;
  chosen: boolean;
  last: boolean;
  onChoose: () => void;
  onMove: (to: CurvePoint) => void;
  onRemove: () => void;
}) {
  const { point, place, unit, onMove } = props;
  const full = UNITS[unit];
  const digits = DIGITS[unit];
  const fine = full / 10 ** (digits ? 5 : 4);
  return (
    <tr className={props.chosen ? "chosen" : ""} onFocus={props.onChoose}>
      <td>{place}</td>
      <td>
        <NumberBox
          label={`Point ${place} in, ${unit}`}
          value={shownAs(point[0], unit)}
          low={0}
          high={full}
          fine={fine}
          digits={digits}
          onChange={(v) => onMove([v / full, point[1]])}
        />
      </td>
      <td>
        <NumberBox
          label={`Point ${place} out, ${unit}`}
          value={shownAs(point[1], unit)}
          low={-full}
          high={2 * full}
          fine={fine}
          digits={digits}
          onChange={(v) => onMove([point[0], v / full])}
        />
      </td>
      <td />
      <td>
        <Button
          look="icon"
          aria-label={`Remove point ${place}`}
          isDisabled={props.last}
          onPress={props.onRemove}
        >
          ✕
        </Button>
      </td>
    </tr>
  );
}

export function CurveTable(props: {
  channel: string;
  points: CurvePoint[];
  at: number;
  unit: Unit;
  onUnit: (unit: Unit) => void;
  onChoose: (index: number) => void;
  onMove: (index: number, to: CurvePoint) => void;
  onRemove: (index: number) => void;
}) {
  const { points, unit } = props;
  return (
    <Points aria-label={`Points of the ${props.channel} curve`}>
      <thead>
        <tr>
          <th>point</th>
          <th>in</th>
          <th>out</th>
          <th colSpan={2}>
            <Choice
              look="bare"
              hidden
              label="Unit"
              chosen={unit}
              onChange={props.onUnit}
              options={(Object.keys(UNITS) as Unit[]).map((u) => ({ key: u, label: u }))}
            />
          </th>
        </tr>
      </thead>
      <tbody>
        {points.map((point, k) => (
          <Row
            key={k}
            point={point}
            place={k + 1}
            unit={unit}
            chosen={k === props.at}
            last={points.length <= 2}
            onChoose={() => props.onChoose(k)}
            onMove={(to) => props.onMove(k, to)}
            onRemove={() => props.onRemove(k)}
          />
        ))}
      </tbody>
    </Points>
  );
}
