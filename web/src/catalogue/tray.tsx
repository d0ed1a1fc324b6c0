/** The tray: up to four looks put by to be held beside each other. It is kept in this browser. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { create } from "zustand";
import styled from "styled-components";
import type { Card } from "../api/types";
import { Button } from "../kit/button";
import { Grow, Quiet } from "../kit/layout";
import { Saucer, saucerOf } from "../kit/saucer";
import { askedOf } from "./asked";

const KEPT = "saucer-tray";
export const ROOM = 4;

const read = (): number[] => {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "[]");
    return Array.isArray(kept) ? kept.filter((id): id is number => Number.isInteger(id)).slice(0, ROOM) : [];
  } catch {
    return [];
  }
};

export const useTray = create<{
  looks: number[];
  put: (looks: number[]) => void;
  turn: (look: number) => void;
}>((set, get) => ({
  looks: read(),
  put: (looks) => {
    const kept = [...new Set(looks)].slice(-ROOM);
    localStorage.setItem(KEPT, JSON.stringify(kept));
    set({ looks: kept });
  },
  /** Puts a look in, or takes it out; the one that lies there longest makes room. */
  turn: (look) => {
    const { looks, put } = get();
    put(looks.includes(look) ? looks.filter((id) => id !== look) : [...looks, look]);
  },
}));

const Bar = styled.section`
  flex: none;
  height: 60px;
  border-top: 1px solid var(--line);
  background: var(--g1);
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 18px;
  .one {
    display: flex;
    align-items: center;
    gap: 9px;
    min-width: 0;
  }
  .one span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    max-width: 150px;
  }
`;

const LEFT = ["", "room for one more", "room for two more", "room for three more"];

export function Tray() {
  const { looks, put, turn } = useTray();
  const { data } = useQuery(askedOf.cards(looks));
  const navigate = useNavigate();
  if (!looks.length) return null;
  const there: Card[] = data ?? [];
  return (
    <Bar aria-label="Tray">
      <h2>Tray</h2>
      {there.map((card) => (
        <div className="one" key={card.id}>
          <Saucer src={saucerOf(card.revision)} size={34} />
          <span>{card.name}</span>
          <Button look="icon" aria-label={`Take ${card.name} out of the tray`} onPress={() => turn(card.id)}>
            ✕
          </Button>
        </div>
      ))}
      <Quiet>{LEFT[ROOM - looks.length]}</Quiet>
      <Grow />
      <Button onPress={() => put([])}>Clear</Button>
      <Button
        isDisabled={there.length < 2}
        onPress={() => void navigate(`/catalogue/compare?${looks.map((id) => `look=${id}`).join("&")}`)}
      >
        Side by side
      </Button>
    </Bar>
  );
}
