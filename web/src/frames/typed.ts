/** The numbers of a camera encoding while they are typed. */
import type { CameraForm, CameraNumbers } from "../api/types";

export const CORNERS = ["red", "green", "blue", "white"] as const;
export const CURVE = [
  "base",
  "log_side_slope",
  "log_side_offset",
  "lin_side_slope",
  "lin_side_offset",
  "lin_side_break",
  "linear_slope",
] as const;
export type CurveField = (typeof CURVE)[number];
/** Numbers while they are typed: those of the curve may still be missing. */
export type Typed = Omit<CameraNumbers, CurveField> & Record<CurveField, number | null>;
/** What it means to leave one out that may be. */
export const NONE: Partial<Record<CurveField, string>> = {
  lin_side_break: "none",
  linear_slope: "the tangent",
};

/** The numbers once none is missing. */
export function complete(typed: Typed): CameraNumbers | null {
  const missing = CURVE.some((f) => typed[f] === null && !NONE[f]);
  return missing ? null : (typed as CameraNumbers);
}

export function begin(form: CameraForm): Typed {
  const { red, green, blue, white } = form.primaries[0]!;
  const none = Object.fromEntries(CURVE.map((f) => [f, null])) as Record<CurveField, null>;
  return { name: "", red, green, blue, white, ...none };
}

export interface Limits {
  title: string;
  description: string;
  low: number;
  high: number;
}

/**
 * What the core declares of a number of the curve; one that may be left out declares it in its first
 * alternative.
 */
export function limits(form: CameraForm, field: CurveField): Limits {
  const declared = form.fields[field] as { title: string; description: string; anyOf?: unknown[] };
  const number = (declared.anyOf?.[0] ?? declared) as { minimum: number; maximum: number };
  return {
    title: declared.title,
    description: declared.description,
    low: number.minimum,
    high: number.maximum,
  };
}
