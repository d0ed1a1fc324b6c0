/** Frames, revisions, cards, shots and projects as the server answers them. */
import { NO_TRIM } from "../src/kit/trim";
import type {
  Card,
  Delivery,
  Encoding,
  Frame,
  Job,
  Kind,
  Layer,
  FilterValues,
  Me,
  Project,
  Revision,
  Scale,
  Shot,
} from "../src/api/types";

export const INES: Me = {
  id: 2,
  username: "ines",
  name: "Ines Tallow",
  role: "Look designer",
  may_design: true,
  may_lead: false,
};
export const ODILE: Me = {
  id: 4,
  username: "odile",
  name: "Odile Marl",
  role: "Lead",
  may_design: true,
  may_lead: true,
};

export const ENCODINGS = [
  { key: "bt709_display", label: "BT.709 display", referred: "display" },
  { key: "film_log", label: "film log", referred: "scene" },
] as Encoding[];

const share = {
  title: "Strength",
  label: "Strength",
  default: 1,
  minimum: 0,
  maximum: 1,
  unit: "%",
  fine: 0.01,
  coarse: 0.1,
  scale: 100,
  help: "",
};
export const KINDS = [
  {
    kind: "exposure",
    title: "Exposure",
    purpose: "tone",
    summary: "",
    parameters: { properties: { strength: share } },
  },
] as unknown as Kind[];

export { NO_TRIM } from "../src/kit/trim";

export const frame = (id: number, more: Partial<Frame> = {}): Frame => ({
  id,
  name: `Frame ${id}`,
  light: "noon",
  encoding: "film_log",
  clip: null,
  number: 0,
  file_name: `${id}.png`,
  kind: "PNG",
  depth: "16 bit",
  width: 1920,
  height: 1080,
  trim: NO_TRIM,
  doubt: "",
  encoding_by: "said by who brought it",
  unread: [],
  notes: [],
  part: { x: 0.5, y: 0.5 },
  sets: [],
  raw: null,
  chart: false,
  passing: false,
  version: `v${id}`,
  added_by: "Ines Tallow",
  added_at: "2026-05-01T10:00:00Z",
  ...more,
});

export const revision = (id: number, name: string, more: Partial<Revision> = {}): Revision => ({
  id,
  look_id: id,
  look_name: name,
  number: 1,
  digest: "abcdefgh12",
  note: "",
  status: "approved",
  input: "film_log",
  output: "bt709_display",
  moved_by: "",
  moved_at: null,
  made_by: "Ines Tallow",
  made_at: "2026-05-01T10:00:00Z",
  ...more,
});

export const card = (id: number, name: string, more: Partial<Card> = {}): Card => ({
  id,
  name,
  note: "",
  maker: "Ines Tallow",
  tags: [],
  words: [],
  tones: ["#404040", "#c0c0c0"],
  rights: "",
  brought_in: false,
  favourite: false,
  uses: 0,
  traits: { warmth: 0, contrast: 1 },
  revision: revision(10 * id, name),
  ...more,
});

export const shot = (id: number, name: string, more: Partial<Shot> = {}): Shot => ({
  id,
  number: id,
  name,
  scene: null,
  frame: frame(id),
  cut: null,
  trim: NO_TRIM,
  layers: [],
  given_by: "",
  meant: [],
  version: `s${id}`,
  ...more,
});

/** A look on a shot. */
export const layer = (revision: Revision, strength = 1): Layer => ({ revision, strength });

export const job = (state: string, more: Partial<Job> = {}): Job => ({
  id: 70,
  kind: "delivery",
  title: "",
  state,
  done: 0,
  total: 0,
  doing: "",
  reason: "",
  asked_at: "2026-05-01T10:00:00Z",
  ahead: 0,
  ...more,
});

export const delivery = (id: number, state: string, more: Partial<Delivery> = {}): Delivery => ({
  id,
  number: id,
  bytes: 3 * 2 ** 20,
  grid: 33,
  encodings: [],
  cut: null,
  review: false,
  job: job(state, { id: 70 + id }),
  ready: state === "done",
  parts: [],
  changes: [],
  left_out: [],
  drop_folder: { state: "", place: "", why: "" },
  looks: [],
  shots: 2,
  made_by: "Odile Marl",
  made_at: "2026-05-01T10:00:00Z",
  ...more,
});

export const project = (shots: Shot[], more: Partial<Project> = {}): Project => ({
  id: 4,
  name: "Kiln series",
  note: "Six minutes.",
  private: false,
  members: [],
  encodings: [],
  pattern: [],
  reading: [],
  puts: null,
  scenes: [],
  shots,
  changes: [],
  ...more,
});

export const SCALES: Scale[] = [
  {
    key: "warmth",
    label: "Warmth",
    low: -60,
    high: 60,
    neutral: 0,
    notice: 8,
    less: "cooler",
    more: "warmer",
    unit: "",
    factor: 1,
    digits: 0,
  },
  {
    key: "contrast",
    label: "Contrast",
    low: 0.4,
    high: 1.8,
    neutral: 1,
    notice: 0.1,
    less: "softer",
    more: "harder",
    unit: "×",
    factor: 1,
    digits: 2,
  },
];

/** The values of each filter; nothing but what is said. */
export const filterValues = (more: Partial<FilterValues> = {}): FilterValues => ({
  found: 2,
  total: 2,
  taken_for: {},
  tags: [],
  lights: [],
  statuses: [],
  rights: [],
  makers: [],
  expects: [],
  origins: [],
  projects: [],
  collections: [],
  bars: { warmth: [0, 1, 0], contrast: [1, 0, 0] },
  all_bars: { warmth: [0, 2, 0], contrast: [1, 1, 0] },
  ...more,
});
