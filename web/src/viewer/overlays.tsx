/** What lies over the picture: names of its sides, the line between them, marked spots. */
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";
import type { Place as Point } from "../api/types";
import type { Box } from "./box";

export const Tag = styled.span`
  position: absolute;
  top: 10px;
  left: 10px;
  padding: 3px 10px;
  border-radius: 11px;
  background: var(--over);
  font-size: 12px;
  pointer-events: none;
`;

/** The name of the other side: at the right, or at the bottom. */
const RightTag = styled(Tag)`
  left: auto;
  right: 10px;
`;
const BottomTag = styled(Tag)`
  top: auto;
  bottom: 10px;
`;
const Track = styled(SliderTrack)`
  width: 100%;
  height: 100%;
  cursor: ew-resize;
  touch-action: none;
`;
const Thumb = styled(SliderThumb)`
  top: 50%;
  width: 20px;
  height: 20px;
  border-radius: 50%;
  background: var(--over);
  border: 2px solid var(--on-picture);
  &:before,
  &:after {
    content: "";
    position: absolute;
    left: 7px;
    width: 2px;
    height: 2000px;
    background: var(--on-picture);
  }
  &:before {
    bottom: 18px;
  }
  &:after {
    top: 18px;
  }
`;
const Line = styled(Slider)`
  position: absolute;
  inset: 0;
  overflow: hidden;
  &[data-orientation="vertical"] ${Track} {
    cursor: ns-resize;
  }
  &[data-orientation="vertical"] ${Thumb} {
    left: 50%;
    &:before,
    &:after {
      left: auto;
      top: 7px;
      bottom: auto;
      width: 2000px;
      height: 2px;
    }
    &:before {
      right: 18px;
    }
    &:after {
      left: 18px;
    }
  }
`;

/** The line between two pictures. at: 0 to 1 from the left, or from the top. */
export function SplitLine(props: {
  before: string;
  after: string;
  at: number;
  down: boolean;
  onMove: (at: number) => void;
}) {
  const { before, after, at, down, onMove } = props;
  const Other = down ? BottomTag : RightTag;
  return (
    <>
      <Tag>{before}</Tag>
      <Other>{after}</Other>
      <Line
        aria-label={`Split between ${before} and ${after}`}
        minValue={0}
        maxValue={1}
        step={0.005}
        value={down ? 1 - at : at}
        orientation={down ? "vertical" : "horizontal"}
        onChange={(value) => onMove(down ? 1 - Number(value) : Number(value))}
      >
        <Track>
          <Thumb />
        </Track>
      </Line>
    </>
  );
}

const Spot = styled.span`
  position: absolute;
  width: 18px;
  height: 18px;
  margin: -9px;
  border-radius: 50%;
  border: 1.5px solid var(--white);
  box-shadow: 0 0 0 1.5px var(--g0);
  font-size: 10.5px;
  line-height: 15px;
  text-align: center;
  color: var(--white);
  text-shadow:
    0 0 3px var(--black),
    0 0 3px var(--black);
  pointer-events: none;
`;

/** Numbered spots. over: where the whole picture lies in the box, enlarged or not. */
export function Spots(props: { spots: Point[]; over: Omit<Box, "left" | "top"> & Point; box: Box }) {
  const { spots, over, box } = props;
  return spots.map((spot, k) => {
    const [left, top] = [over.x + spot.x * over.width, over.y + spot.y * over.height];
    const inside = left >= 0 && top >= 0 && left <= box.width && top <= box.height;
    return inside ? (
      <Spot key={k} style={{ left, top }}>
        {k + 1}
      </Spot>
    ) : null;
  });
}
