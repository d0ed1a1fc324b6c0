/**
 * States of the draft set aside under a name, to go back to and to hold it against; kept in this browser
 * while its tab lives.
 */
import { create } from "zustand";
import type { Look } from "../api/types";

export interface State {
  name: string;
  look: Look;
}

const MOST = 12;
const place = (id: number) => `saucer-states-${id}`;

export const useStates = create<{ id: number; states: State[] }>()(() => ({ id: 0, states: [] }));

export function openStates(id: number): void {
  let states: State[] = [];
  try {
    states = JSON.parse(sessionStorage.getItem(place(id)) ?? "[]") as State[];
  } catch {
    // Something unreadable counts as absent.
  }
  useStates.setState({ id, states });
}

function put(states: State[]): void {
  const { id } = useStates.getState();
  useStates.setState({ states });
  try {
    sessionStorage.setItem(place(id), JSON.stringify(states));
  } catch {
    // Where the browser's store is full, only what a reload would restore is lost.
  }
}

export function setAside(look: Look): State {
  const { states } = useStates.getState();
  const named = (n: number) => `State ${n}`;
  let n = states.length + 1;
  while (states.some((s) => s.name === named(n))) n += 1;
  const state = { name: named(n), look };
  put([...states, state].slice(-MOST));
  return state;
}
