/** What waits for the person, one press away from anywhere. */
import { useQuery } from "@tanstack/react-query";
import {
  Button as AriaButton,
  Header,
  Menu,
  MenuItem,
  MenuSection,
  MenuTrigger,
} from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { got, server } from "../api/client";
import type { WaitingNote } from "../api/types";
import { client } from "../api/queries";
import { Menued } from "../kit/menued";
import { askedOfLook } from "./asked";

const Mark = styled(AriaButton)`
  border: 1px solid var(--accent);
  color: var(--accent);
  background: none;
  border-radius: 14px;
  height: 28px;
  padding: 0 11px;
  font-size: 12px;
  cursor: pointer;
  flex: none;
  white-space: nowrap;
  &[data-hovered] {
    background: var(--g3);
  }
`;

/** Where a note is seen. */
export const reelOf = (note: WaitingNote) =>
  `/projects/${note.project}/reel${note.shot === null ? "" : `?shot=${note.shot}`}`;

export function WaitingForMe() {
  const { data } = useQuery(askedOfLook.waiting);
  const { data: notes = [] } = useQuery(askedOfLook.notesWaiting);
  const navigate = useNavigate();
  const asked = data?.asked ?? [];
  const answered = data?.answered ?? [];
  const count = asked.length + answered.length + notes.length;
  if (!count) return null;
  const open = (key: string) => {
    const note = notes.find((n) => `note ${n.id}` === key);
    if (note) void navigate(reelOf(note));
    const review = [...asked, ...answered].find((r) => String(r.id) === key);
    if (!review) return;
    if (review.own && review.stand !== "open") {
      void got(
        server.POST("/api/reviews/{review_id}/seen", { params: { path: { review_id: review.id } } }),
      ).then(() => client.invalidateQueries({ queryKey: ["waiting"] }));
    }
    void navigate(`/catalogue/look/${review.revision.look_id}?r=${review.revision.number}`);
  };
  return (
    <MenuTrigger>
      <Mark>
        {count} {count === 1 ? "waits" : "wait"} for you
      </Mark>
      <Menued placement="bottom end">
        <Menu aria-label="What waits for you" onAction={(key) => open(String(key))}>
          {asked.length ? (
            <MenuSection>
              <Header>To be decided</Header>
              {asked.map((r) => (
                <MenuItem
                  key={r.id}
                  id={String(r.id)}
                  textValue={`${r.revision.look_name} r${r.revision.number}`}
                >
                  {r.revision.look_name} r{r.revision.number}
                  <small>
                    {r.asked_by}
                    {r.due
                      ? `, by ${new Date(r.due).toLocaleDateString("en-GB", { day: "numeric", month: "short" })}`
                      : ""}
                  </small>
                </MenuItem>
              ))}
            </MenuSection>
          ) : null}
          {answered.length ? (
            <MenuSection>
              <Header>Answered</Header>
              {answered.map((r) => (
                <MenuItem
                  key={r.id}
                  id={String(r.id)}
                  textValue={`${r.revision.look_name} r${r.revision.number}, ${r.stand}`}
                >
                  {r.revision.look_name} r{r.revision.number}
                  <small>
                    {r.stand} by {r.answered_by}
                    {r.answer ? `: ${r.answer.slice(0, 60)}` : ""}
                  </small>
                </MenuItem>
              ))}
            </MenuSection>
          ) : null}
          {notes.length ? (
            <MenuSection>
              <Header>Noted on your projects</Header>
              {notes.map((n) => (
                <MenuItem key={n.id} id={`note ${n.id}`} textValue={`${n.place}: ${n.text}`}>
                  {n.place}
                  <small>
                    {n.by}: {n.text.slice(0, 60)}
                  </small>
                </MenuItem>
              ))}
            </MenuSection>
          ) : null}
        </Menu>
      </Menued>
    </MenuTrigger>
  );
}
