/** The frames row takes pictures and folders that are dropped on it: they are looked through on their own page. */
import { useRef, type ReactNode } from "react";
import { useDrop } from "react-aria-components";
import { useLocation, useNavigate } from "react-router";
import styled from "styled-components";
import { useMe } from "../api/queries";
import { intakePath } from "../framesin/back";
import { send } from "../framesin/sending";
import { dropped } from "../kit/gather";

const Place = styled.div`
  flex: none;
  position: relative;
  min-width: 0;
`;
const Over = styled.p`
  position: absolute;
  inset: 0;
  z-index: 2;
  display: grid;
  place-items: center;
  border: 1px dashed var(--accent);
  border-radius: 6px;
  background: var(--g1);
  color: var(--t1);
`;

export function FrameDrop({ children }: { children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { data: me } = useMe();
  const { dropProps, isDropTarget } = useDrop({
    ref: place,
    isDisabled: !me?.may_design,
    onDrop: (e) =>
      void dropped(e.items).then((files) =>
        send(files, null, (id) => void navigate(intakePath(id, pathname))),
      ),
  });
  return (
    <Place ref={place} {...dropProps}>
      {children}
      {isDropTarget ? <Over role="status">Drop to bring in as frames. Nothing is kept yet.</Over> : null}
    </Place>
  );
}
