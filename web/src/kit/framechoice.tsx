/** On which frame looks are shown. */
import type { Frame } from "../api/types";
import { Choice } from "./choice";

export function FrameChoice(props: { all: Frame[]; frame: Frame | null; onChoose: (id: number) => void }) {
  return (
    <>
      shown on
      <Choice
        look="bare"
        hidden
        label="Frame to show looks on"
        chosen={props.frame ? String(props.frame.id) : null}
        onChange={(id) => props.onChoose(Number(id))}
        options={props.all.map((f) => ({ key: String(f.id), label: f.name, note: f.light }))}
        empty="no frame yet"
      />
    </>
  );
}
