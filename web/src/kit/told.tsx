/** Something that is told once: an address or a secret, to be copied now. */
import { useState } from "react";
import styled from "styled-components";
import { Button } from "./button";
import { Said } from "./layout";

const Box = styled.div`
  .told {
    display: flex;
    gap: 8px;
    align-items: center;
    border: 1px solid var(--accent);
    border-radius: 6px;
    padding: 5px 8px;
  }
  code {
    overflow-wrap: anywhere;
    font-size: 12px;
    flex: 1;
  }
  p {
    margin-top: 4px;
    font-size: 12px;
  }
`;

export function Told(props: { text: string; words: string }) {
  const [copied, setCopied] = useState("");
  return (
    <Box role="status">
      <div className="told">
        <code>{props.text}</code>
        <Button
          onPress={() => void navigator.clipboard.writeText(props.text).then(() => setCopied(props.text))}
        >
          {copied === props.text ? "Copied" : "Copy"}
        </Button>
      </div>
      <Said>{props.words}</Said>
    </Box>
  );
}
