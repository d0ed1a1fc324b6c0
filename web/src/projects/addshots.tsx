/** Frames to add to a project as shots. */
import { useState } from "react";
import { ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import { useFrames } from "../api/queries";
import { Button } from "../kit/button";
import { Empty } from "../kit/empty";
import { Sheet } from "../kit/sheet";
import { Waiting } from "../kit/waiting";

const Grid = styled(ListBox)`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
  max-height: 60vh;
  overflow: auto;
  padding: 4px;
  .frame {
    cursor: pointer;
    outline: none;
    padding: 6px;
    border-radius: 6px;
    border: 1px solid transparent;
  }
  .frame[data-selected] {
    border-color: var(--accent);
    background: var(--g2);
  }
  .frame[data-focus-visible] {
    outline: 2px solid var(--accent);
  }
  .frame img {
    width: 100%;
    aspect-ratio: 16/9;
    object-fit: cover;
    border-radius: 3px;
    display: block;
    margin-bottom: 5px;
  }
`;

export function AddShots(props: { onClose: () => void; onAdd: (frames: number[]) => void }) {
  const frames = useFrames();
  const [chosen, setChosen] = useState<number[]>([]);
  return (
    <Sheet title="Add shots" width={720} onClose={props.onClose}>
      {!frames.data ? (
        <Waiting query={frames} what="frames" />
      ) : frames.data.length ? (
        <Grid
          aria-label="Frames"
          layout="grid"
          selectionMode="multiple"
          selectedKeys={chosen}
          onSelectionChange={(keys) => setChosen(keys === "all" ? frames.data.map((f) => f.id) : [...keys].map(Number))}
        >
          {frames.data
            .filter((f) => !f.chart)
            .map((f) => (
              <ListBoxItem key={f.id} id={f.id} textValue={f.name} className="frame">
                <img src={`/api/frames/${f.id}/still?width=320&v=${f.version}`} alt="" loading="lazy" />
                {f.name}
              </ListBoxItem>
            ))}
        </Grid>
      ) : (
        <Empty title="No frames yet">Bring pictures under Frames first.</Empty>
      )}
      <footer>
        <Button onPress={props.onClose}>Cancel</Button>
        <Button look="main" isDisabled={!chosen.length} onPress={() => props.onAdd(chosen)}>
          Add {chosen.length || ""} {chosen.length === 1 ? "shot" : "shots"}
        </Button>
      </footer>
    </Sheet>
  );
}
