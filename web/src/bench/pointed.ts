/** The spot under the pointer. Only the probe follows it. */
import { create } from "zustand";
import type { Probed } from "../api/types";

export const usePointed = create<{ found: Probed | null }>()(() => ({ found: null }));
