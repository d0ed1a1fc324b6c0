/** The files of an intake: one row each. */
import type { FocusEvent } from "react";
import { GridList, ListLayout, Virtualizer, type Selection } from "react-aria-components";
import styled from "styled-components";
import type { IntakeFile } from "../api/types";
import { Listed } from "../kit/deciding";
import type { Say } from "./acts";
import { FileRow, inColumns, ROW } from "./filerow";
import { unread } from "./judging";

const Heads = styled.div`
  ${inColumns}
  padding: 6px 14px;
  color: var(--t2);
  font-size: 12px;
  border-bottom: 1px solid var(--line);
`;

/** What is taken hold of in the list is looked at, by keys as by pointer. */
const keyOf = (e: FocusEvent): number | null =>
  e.target.getAttribute("role") === "row" ? Number(e.target.getAttribute("data-key")) || null : null;

/** at: the key of the file that is looked at closer. */
export function Rows(props: {
  intake: number;
  files: IntakeFile[];
  at: number | null;
  onAt: (file: number) => void;
  onSay: Say;
}) {
  const { files } = props;
  const chosen = new Set(files.filter((f) => f.chosen && !unread(f)).map((f) => String(f.id)));
  const choose = (next: Selection) => {
    const now = next === "all" ? new Set(files.map((f) => String(f.id))) : new Set([...next].map(String));
    const changed = files.filter((f) => !unread(f) && now.has(String(f.id)) !== f.chosen);
    const on = changed.filter((f) => !f.chosen).map((f) => f.id);
    const off = changed.filter((f) => f.chosen).map((f) => f.id);
    if (on.length) props.onSay(on, { chosen: true });
    if (off.length) props.onSay(off, { chosen: false });
  };
  return (
    <>
      <Heads aria-hidden>
        <span />
        <span />
        <span>picture</span>
        <span>read as</span>
        <span>light</span>
        <span>in small cards</span>
        <span>to look at</span>
      </Heads>
      <Listed
        onFocus={(e) => {
          const key = keyOf(e);
          if (key !== null) props.onAt(key);
        }}
      >
        <Virtualizer layout={ListLayout} layoutOptions={{ rowHeight: ROW }}>
          <GridList
            aria-label="Pictures that come in"
            items={files}
            dependencies={[props.at]}
            selectionMode="multiple"
            selectionBehavior="toggle"
            keyboardNavigationBehavior="tab"
            selectedKeys={chosen}
            disabledKeys={files.filter(unread).map((f) => String(f.id))}
            disabledBehavior="selection"
            onSelectionChange={choose}
          >
            {(file: IntakeFile) => (
              <FileRow
                intake={props.intake}
                file={file}
                looked={file.id === props.at}
                onLook={() => props.onAt(file.id)}
                onSay={(said) => props.onSay([file.id], said)}
              />
            )}
          </GridList>
        </Virtualizer>
      </Listed>
    </>
  );
}
