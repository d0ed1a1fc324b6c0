/**
 * How the bench shows the draft: which pictures, beside what, how much of them. None of it is part of the
 * look.
 */
import { create } from "zustand";
import type { Look, Place, Probed } from "../api/types";
import type { MaskName } from "../viewer/mask";
import { WHOLE, type Zoom } from "../viewer/zoom";

export type Show = "original" | "look" | "split" | "beside" | "difference" | "baked";
export const TILES = ["1", "2", "4", "6", "9"] as const;
export type Tiles = (typeof TILES)[number];
export const GRIDS = ["17", "33", "65"] as const;
export type Grid = (typeof GRIDS)[number];
/** ΔE that is shown as white. */
export const FULLS = ["5", "10", "20", "40"] as const;
export type Full = (typeof FULLS)[number];

/** Something to hold the draft against: a look by its steps, or a frame as it is. */
export interface Rival {
  key: string;
  name: string;
  look: Look | null;
  /** A reference picture: shown and read as it is. */
  frame?: number;
}

/** What a click into the picture is for. */
export interface Picking {
  what: string;
  step: string;
  take: (found: Probed) => void;
}

interface View {
  show: Show;
  tiles: Tiles;
  down: boolean;
  rivals: Rival[];
  white: Full;
  grid: Grid;
  interpolation: "tetrahedral" | "trilinear";
  zoom: Zoom;
  mask: MaskName | "";
  spots: Place[];
  only: string | null;
  /** Shown instead of the draft while somebody looks through presets, tables or looks. */
  preview: { name: string; look: Look } | null;
  picking: Picking | null;
  trimming: boolean;
  full: boolean;
  /** Whether other clips in the row of frames play with the one that is shown. */
  row: boolean;
}

const START: View = {
  show: "look",
  tiles: "1",
  down: false,
  rivals: [],
  white: "20",
  grid: "33",
  interpolation: "tetrahedral",
  zoom: WHOLE,
  mask: "",
  spots: [],
  only: null,
  preview: null,
  picking: null,
  trimming: false,
  full: false,
  row: false,
};

export const useView = create<View>()(() => START);
export const view = useView.setState;
/** As it is when a look is opened. */
export const resetView = () => view(START);

/** At most three beside the draft. */
export const RIVALS = 3;

/** Takes a rival in, or out where it is there. */
export function toggleRival(rival: Rival): void {
  const { rivals, show } = useView.getState();
  const there = rivals.some((r) => r.key === rival.key);
  const next = there ? rivals.filter((r) => r.key !== rival.key) : [...rivals, rival].slice(-RIVALS);
  const compares = show === "beside" || show === "difference" || show === "split";
  view({
    rivals: next,
    show: next.length && !compares ? "beside" : show === "beside" && !next.length ? "look" : show,
  });
}

export const SPOTS = 6;
