/** One file, chosen or dropped. */
import { DropZone, FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button";

const Drop = styled(DropZone)`
  border: 1px dashed var(--g4);
  border-radius: 8px;
  padding: 18px;
  display: flex;
  gap: 14px;
  align-items: center;
  color: var(--t2);
  &[data-drop-target] {
    border-color: var(--accent);
    background: var(--g2);
  }
`;

export function FileDrop(props: {
  button: string;
  said: string;
  suffixes: string[];
  onFile: (file: File) => void;
}) {
  return (
    <Drop
      onDrop={async (e) => {
        const item = e.items.find((i) => i.kind === "file");
        if (item?.kind === "file") props.onFile(await item.getFile());
      }}
    >
      <FileTrigger
        acceptedFileTypes={props.suffixes}
        onSelect={(files) => files?.[0] && props.onFile(files[0])}
      >
        <Button>{props.button}</Button>
      </FileTrigger>
      <span>{props.said}</span>
    </Drop>
  );
}
