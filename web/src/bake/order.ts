/** What is to be baked, and how: chosen on the page, sent as it stands. */
import type { components } from "../api/schema";

type Sent = components["schemas"]["OrderIn"];
export type Method = NonNullable<Sent["method"]>;
export type CodeRange = NonNullable<Sent["code_range"]>;

export interface BakeOrder {
  kinds: string[];
  grid: number;
  method: Method;
  code_range: CodeRange;
  title: string;
  rights: string;
  note: string;
  parts: string[];
}

export const GRIDS = [17, 33, 65] as const;
export const METHODS: readonly Method[] = ["fitted", "sampled"];

export const begin = (title: string): BakeOrder => ({
  kinds: ["cube"],
  grid: 33,
  method: "sampled",
  code_range: "full",
  title,
  rights: "inside the studio",
  note: "",
  parts: ["look", "revision", "out", "grid"],
});

/** The part of an order that decides what files would be called. */
export const naming = (order: BakeOrder) => ({
  kinds: [],
  grid: order.grid,
  method: order.method,
  parts: order.parts,
});
