/** One file, or one folder where folders are taken, chosen or dropped. */
import { DropZone, FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button";
import { chosen, dropped, type Gathered } from "./gather";

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
  onFolder?: (name: string, files: Gathered[]) => void;
}) {
  const { onFolder } = props;
  return (
    <Drop
      onDrop={async (e) => {
        const item = e.items.find((i) => i.kind === "file" || (onFolder && i.kind === "directory"));
        if (item?.kind === "file") props.onFile(await item.getFile());
        if (item?.kind === "directory") onFolder?.(item.name, await dropped([item]));
      }}
    >
      <FileTrigger
        acceptedFileTypes={props.suffixes}
        onSelect={(files) => files?.[0] && props.onFile(files[0])}
      >
        <Button>{props.button}</Button>
      </FileTrigger>
      {onFolder ? (
        <FileTrigger
          acceptDirectory
          onSelect={(files) => {
            const all = chosen(files);
            if (all.length) onFolder(all[0]?.path.split("/")[0] ?? "", all);
          }}
        >
          <Button>Choose a folder</Button>
        </FileTrigger>
      ) : null}
      <span>{props.said}</span>
    </Drop>
  );
}
