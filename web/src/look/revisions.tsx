/**
 * The revisions of a look, the newest first: what changed with each, and which two are held against each
 * other.
 */
import { ListBox, ListBoxItem } from "react-aria-components";
import styled from "styled-components";
import type { Kept } from "../api/types";
import { Choice } from "../kit/choice";
import { Saucer, saucerOf } from "../kit/saucer";
import { longAgo } from "../kit/when";

const Column = styled.aside`
  width: 236px;
  flex: none;
  border-right: 1px solid var(--line);
  background: var(--g1);
  display: flex;
  flex-direction: column;
  min-height: 0;
  > header {
    display: flex;
    justify-content: space-between;
    align-items: center;
    padding: 10px 12px 6px 16px;
    color: var(--t2);
    font-size: 12px;
  }
  > header > span {
    display: flex;
    align-items: center;
  }
  > footer {
    padding: 10px 16px;
    border-top: 1px solid var(--line);
  }
  [role="listbox"] {
    flex: 1;
    overflow-y: auto;
    outline: none;
    padding: 4px 8px;
  }
  [role="option"] {
    display: grid;
    grid-template-columns: 54px 1fr;
    gap: 12px;
    padding: 8px;
    border-radius: 6px;
    cursor: pointer;
    outline-offset: -2px;
  }
  [role="option"][data-hovered] {
    background: var(--g2);
  }
  [role="option"][data-selected] {
    background: var(--g3);
  }
  .first {
    display: flex;
    justify-content: space-between;
    gap: 6px;
  }
  .first strong {
    font-weight: 600;
  }
  .status {
    color: var(--t2);
    font-size: 12px;
  }
  .status.approved {
    color: var(--accent);
  }
  small {
    display: block;
    color: var(--t2);
    font-size: 12px;
  }
  .what {
    display: -webkit-box;
    -webkit-line-clamp: 3;
    -webkit-box-orient: vertical;
    overflow: hidden;
  }
`;

/** What changed, in a few words. */
export const shortly = (kept: Kept): string =>
  kept.since
    ? kept.since.changes.map((c) => c.text).join("; ") || "no change"
    : kept.revision.note || "the first";

export function Revisions(props: {
  kept: Kept[];
  shown: number;
  against: number | null;
  onShow: (revision: number) => void;
  onAgainst: (revision: number | null) => void;
  children?: React.ReactNode;
}) {
  return (
    <Column aria-label="Revisions">
      <header>
        <h2>Revisions</h2>
        <span>
          against
          <Choice
            look="bare"
            hidden
            label="Held against"
            chosen={props.against === null ? "" : String(props.against)}
            onChange={(key) => props.onAgainst(key ? Number(key) : null)}
            options={[
              { key: "", label: "original" },
              ...props.kept
                .filter((k) => k.revision.id !== props.shown)
                .map((k) => ({ key: String(k.revision.id), label: `r${k.revision.number}` })),
            ]}
          />
        </span>
      </header>
      <ListBox
        aria-label="Revisions, the newest first"
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[props.shown]}
        onSelectionChange={(keys) => {
          const [key] = [...keys];
          if (key !== undefined) props.onShow(Number(key));
        }}
        items={props.kept.map((k) => ({ ...k, id: k.revision.id }))}
      >
        {(k) => (
          <ListBoxItem id={k.id} textValue={`r${k.revision.number}, ${k.revision.status}, ${shortly(k)}`}>
            <Saucer src={saucerOf(k.revision, 112)} size={52} />
            <div>
              <div className="first">
                <strong>r{k.revision.number}</strong>
                <span className={`status ${k.revision.status}`}>{k.revision.status}</span>
              </div>
              <span className="what" title={shortly(k)}>
                {shortly(k)}
              </span>
              {k.since?.mean != null ? (
                <small>
                  ΔE mean {k.since.mean.toFixed(1)}, largest {k.since.largest!.toFixed(1)}
                </small>
              ) : null}
              <small>
                {k.revision.made_by}, {longAgo(Date.parse(k.revision.made_at), Date.now())}
              </small>
            </div>
          </ListBoxItem>
        )}
      </ListBox>
      {props.children ? <footer>{props.children}</footer> : null}
    </Column>
  );
}
