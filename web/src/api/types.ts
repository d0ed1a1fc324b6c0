/** The server's types under the names the screens use. All come from the OpenAPI document. */
import type { components } from "./schema";

type Schemas = components["schemas"];

export type EncodingKey = Schemas["Look"]["input"];
export type Blend = Schemas["Exposure"]["blend"];
type Kinds = NonNullable<Schemas["Look"]["steps"]>[number];
/** The server fills in what is left out; what it sends has every field. */
type Whole<T> = T extends unknown ? Required<T> : never;
export type Step = Whole<Exclude<Kinds, { kind: "group" }>> | Group;
export type Group = Omit<Required<Schemas["Group"]>, "steps"> & { steps: Step[] };
export type StepOf<K extends Step["kind"]> = Extract<Step, { kind: K }>;
export type Finish = {
  [E in keyof Required<Schemas["Finish"]>]: Required<NonNullable<Schemas["Finish"][E]>>;
};
export type Look = {
  input: EncodingKey;
  output: EncodingKey;
  steps: Step[];
  strength?: number;
  finish?: Finish;
};
/** The effects of a finish as the core declares them: defaults, what each begins with, and their limits. */
export interface FinishDeclared {
  defaults: Finish;
  begins: Record<keyof Finish, number>;
  parameters: { $defs: Record<string, { properties: Record<string, unknown>; description?: string }> };
}
export type CurvePoint = [number, number];
export type Trim = Schemas["Trim"];
export type Me = Schemas["Me"];
export type Session = Schemas["Session"];
export type Encoding = Schemas["EncodingOut"];
export type TeamEncoding = Schemas["TeamEncodingOut"];
export type CameraNumbers = Schemas["CameraEncoding"];
export type CameraForm = Schemas["CameraForm"];
export type Measured = Schemas["Response"];
export type Kind = Schemas["KindOut"];
export type Frame = Schemas["FrameOut"];
export type Revision = Schemas["RevisionOut"];
export type LookRecord = Omit<Schemas["LookOut"], "draft"> & { draft: Look };
export type LookLine = Schemas["LookLine"];
export type Card = Schemas["CardOut"];
export type Catalogue = Schemas["CatalogueOut"];
export type Check = Required<Schemas["CheckAbout"]>;
export type Change = Schemas["Change"];
export type Preset = Schemas["Offer"];
export type DraftPresence = Schemas["DraftPresence"];
export type Place = Schemas["SpotIn"];

/** One colour as the probe gives it. */
export interface Spot {
  code: [number, number, number];
  luma: number;
  eight: [number, number, number];
  ten: [number, number, number];
  percent: [number, number, number];
  linear: [number, number, number];
  lightness: number;
  chroma: number;
  hue: number;
  from_skin: number;
  css: string;
}

export interface Probed {
  before: Spot;
  after: Spot;
  input: EncodingKey;
  output: EncodingKey;
  /** What a step is given there, where one asked. */
  given?: Spot & { encoding: EncodingKey };
  /** Temperature and tint that make it grey; null where nothing does. */
  neutral?: [number, number] | null;
}

/**
 * What the scopes draw: codes of density, rows from the top, of red, green, blue and luma (256 × columns
 * each) and of the vectorscope, a square.
 */
export interface Readings {
  histogram: number[][];
  before: number[][];
  /** What the chosen step is given, where that was asked. */
  given: number[][] | null;
  shares: Record<"black" | "white" | "outside", number>;
  spots: Probed[];
  skin: [number, number];
  targets: { name: string; x: number; y: number }[];
  columns: number;
  scope: number;
  /** What turns codes of density back into shares of the fullest. */
  lifts: Record<"waves" | "vectors", number>;
  waves: Uint8Array;
  vectors: Uint8Array;
}
export type Bake = Schemas["BakeOut"];
export type Deviation = Schemas["Deviation"];
export type BroughtIn = Schemas["BroughtIn"];
export type CarrierKind = Schemas["CarrierKind"];
export type Carried = Schemas["Brought"];
export type Proof = Schemas["Proof"];
export type Blamed = Schemas["Blamed"];
export type FileOffer = Schemas["OfferOut"];
export type BorrowedLut = Schemas["LutOut"];
export type Project = Schemas["ProjectOut"];
export type ProjectLine = Schemas["ProjectLine"];
export type Shot = Schemas["ShotOut"];
export type Delivery = Schemas["DeliveryOut"];
export type Job = Schemas["JobOut"];

/** A parameter as the core declares it. */
export interface Parameter {
  title: string;
  default: number;
  minimum: number;
  maximum: number;
  label: string;
  unit: string;
  fine: number;
  coarse: number;
  scale: number;
  help: string;
}
export type Pack = Schemas["PackOut"];
export type PackItem = Schemas["PackItemOut"];
export type PackLine = Schemas["PackLine"];
export type Inspection = Schemas["Inspection"];
export type CloudPoints = Schemas["CloudOut"];
export type Slices = Schemas["SlicesOut"];
export type Unbaking = Schemas["UnbakingOut"];
export type Compared = Schemas["Compared"];
export type Scale = Schemas["ScaleOut"];
export type FilterValues = Schemas["FiltersOut"];
export type Counted = Schemas["Counted"];
export type Like = Schemas["LikeOut"];
export type Places = Schemas["PlacesOut"];
export type Kept = Schemas["HistoryLine"];
export type Difference = Schemas["DifferenceOut"];
export type Comparison = Schemas["ComparisonOut"];
export type Note = Schemas["NoteOut"];
export type Review = Schemas["ReviewOut"];
export type Waits = Schemas["WaitingOut"];
export type ContactSheet = Schemas["SheetOut"];
export type SheetLine = Schemas["SheetLine"];
export type SheetRow = Schemas["RowOut"];
export type Outgoing = Schemas["OutgoingOut"];
export type Layer = Schemas["LayerOut"];
export type Scene = Schemas["SceneOut"];
export type Put = Schemas["PutOut"];
export type Done = Schemas["ChangeOut"];
export type Wall = Schemas["SceneOnWallOut"];
export type OnWall = Schemas["OnWallOut"];
export type Reading = Schemas["ReadingOut"];
export type Newer = Schemas["NewerOut"];
export type Suggested = Schemas["SuggestedOut"];
export type Clip = Schemas["ClipOut"];
export type Plan = Required<Schemas["PlanIn"]>;
export type Outlook = Schemas["OutlookOut"];
export type Loss = Schemas["LossOut"];
export type DropFolder = Schemas["DropFolderOut"];
export type Feed = Schemas["FeedOut"];
export type Mate = Schemas["MateOut"];
export type Role = Mate["key"];
export type Invitation = Schemas["LinkOut"];
export type OwnToken = Schemas["TokenOut"];
export type SignedIn = Schemas["SessionOut"];
export type FactorBegun = Schemas["FactorBegunOut"];
export type NewToken = Schemas["TokenIn"];
export type Event = Schemas["EventOut"];
export type Happening = Event["kind"];
export type Removed = Schemas["RemovedOut"];
export type Held = Schemas["HoldingOut"];
