/**
 * The first word of every key under which an answer is kept. The compiler holds queries and whatever is
 * asked for again to this list.
 */
import "@tanstack/react-query";

export type Key =
  // People and sessions.
  | "me"
  | "way in"
  | "come in"
  | "people"
  | "bin"
  | "jobs"
  // What is declared.
  | "kinds"
  | "finish"
  | "encodings"
  | "camera form"
  | "trim"
  | "scales"
  | "carrier kinds"
  | "finished kinds"
  | "delivery choices"
  // Frames and tables.
  | "frames"
  | "intakes"
  | "intake"
  | "luts"
  | "presets"
  | "unlooked"
  | "measured"
  // Looks.
  | "look"
  | "worked"
  | "recipe"
  | "begun"
  | "history"
  | "notes"
  | "reviews"
  | "deciders"
  | "waiting"
  | "uses"
  | "keeping"
  | "since"
  | "taking"
  | "revision"
  | "bakes"
  | "carried"
  | "offers"
  | "proof"
  | "blame"
  | "probe"
  | "picture"
  | "thumb"
  | "drawn"
  | "tried"
  // Catalogue.
  | "catalogue"
  | "packs"
  | "pack"
  | "outgoing"
  | "inspected"
  | "unbaking"
  | "pair"
  | "sheet"
  | "sheets"
  // Projects.
  | "project"
  | "projects"
  | "clips"
  | "reel notes"
  | "drop folder";

declare module "@tanstack/react-query" {
  interface Register {
    queryKey: readonly [Key, ...unknown[]];
  }
}
