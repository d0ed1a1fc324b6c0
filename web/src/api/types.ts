/** The server's types under the names the screens use. All come from the OpenAPI document. */
import type { components } from "./schema";

type Schemas = components["schemas"];

type LookWhole = Schemas["LookWhole"];
/** A look; one that was made here may leave out what the server fills in. */
export type Look = Omit<LookWhole, "strength" | "finish"> & Partial<Pick<LookWhole, "strength" | "finish">>;
export type EncodingKey = Look["input"];
export type Blend = Schemas["ExposureWhole"]["blend"];
export type Step = Look["steps"][number];
export type Group = Schemas["GroupWhole"];
export type StepOf<K extends Step["kind"]> = Extract<Step, { kind: K }>;
export type Finish = Schemas["FinishWhole"];
/** The effects of a finish as the core declares them: defaults, what each begins with, and their limits. */
export type FinishDeclared = Schemas["FinishOut"];
export type CurvePoint = [number, number];
export type Trim = Schemas["TrimWhole"];
export type Me = Schemas["Me"];
export type Session = Schemas["Session"];
export type Encoding = Schemas["EncodingOut"];
export type TeamEncoding = Schemas["TeamEncodingOut"];
export type CameraNumbers = Schemas["CameraEncodingWhole"];
export type CameraForm = Schemas["CameraForm"];
export type Measured = Schemas["Response"];
export type Kind = Schemas["KindOut"];
export type Frame = Schemas["FrameOut"];
export type Cut = Schemas["CutWhole"];
export type CutLine = Schemas["CutLine"];
export type CutSaid = Schemas["CutSaid"];
export type CutStretch = Schemas["CutStretch"];
export type Recutting = Schemas["Recutting"];
export type Intake = Schemas["IntakeOut"];
export type IntakeFile = Schemas["IntakeFileOut"];
export type IntakeSaid = Schemas["IntakeFilesSaid"];
export type Revision = Schemas["RevisionOut"];
export type LookRecord = Schemas["LookOut"];
export type LookLine = Schemas["LookLine"];
export type Card = Schemas["CardOut"];
export type Catalogue = Schemas["CatalogueOut"];
export type Check = Schemas["CheckAbout"];
export type Change = Schemas["Change"];
export type Preset = Schemas["Offer"];
export type DraftPresence = Schemas["DraftPresence"];
export type Place = Schemas["SpotIn"];

export type Spot = Schemas["Spot"];
export type Probed = Schemas["Probe"];
/** A spot before and under a look; from the probe also what a step is given there. */
export type Pair = Schemas["Pair"];
export type ReadingsHead = Schemas["ReadingsHead"];
export type LiveHead = Schemas["LiveHead"];

/**
 * What the scopes draw: the head, and codes of density, rows from the top, of red, green, blue and luma (256
 * × columns each) and of the vectorscope, a square.
 */
export type Readings = ReadingsHead & { waves: Uint8Array; vectors: Uint8Array };
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
export type Parameter = Schemas["Parameter"];
export type Pack = Schemas["PackOut"];
export type PackItem = Schemas["PackItemOut"];
export type PackLine = Schemas["PackLine"];
export type Inspection = Schemas["Inspection"];
export type CloudPoints = Schemas["CloudLists"];
export type Slices = Schemas["Slices"];
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
export type OnReel = Schemas["OnReelOut"];
export type SceneOnReel = Schemas["SceneOnReelOut"];
export type WaitingNote = Schemas["WaitingNoteOut"];
export type ReelNote = Schemas["ReelNoteOut"];
export type Reading = Schemas["ReadingOut"];
export type Newer = Schemas["NewerOut"];
export type Suggested = Schemas["SuggestedOut"];
export type Clip = Schemas["ClipOut"];
export type ReviewPlan = Required<Schemas["ReviewPlan"]>;
export type Plan = Required<Omit<Schemas["Plan"], "review">> & { review: ReviewPlan };
/** How far a shot would change. */
export type ShotChange = Schemas["ShotChangeOut"];
/** A review clip that can be watched. */
export type ReviewClip = Schemas["ReviewClipOut"];
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
export type ProxyIndex = Schemas["ProxyIndex"];
export type OverTime = Schemas["OverTime"];
export type OverTimeLine = Schemas["Line"];
export type TimePlace = Schemas["PlaceOut"];
export type Cause = Schemas["CauseOut"];
