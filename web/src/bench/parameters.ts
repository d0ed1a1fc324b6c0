/** The parameters of a kind, as the core declares them. */
import type { Blend, Kind, Parameter } from "../api/types";

interface Schema {
  properties?: Record<string, unknown>;
  $defs?: Record<string, { properties?: Record<string, unknown> }>;
}

/** A parameter of the step itself, or of one of its parts (`ZoneTone`, `LevelSet`, …). */
export function parameter(kind: Kind, name: string, part?: string): Parameter {
  const schema = kind.parameters as Schema;
  const properties = part ? schema.$defs?.[part]?.properties : schema.properties;
  const found = properties?.[name] as Parameter | undefined;
  if (!found) throw new Error(`${kind.kind} has no parameter ${part ?? ""} ${name}`);
  return found;
}

/** The numbers of one of a step's parts. */
export function partNumbers(kind: Kind, part: string): [string, Parameter][] {
  const properties = (kind.parameters as Schema).$defs?.[part]?.properties ?? {};
  return Object.entries(properties).filter(
    (e): e is [string, Parameter] => typeof (e[1] as Parameter).fine === "number",
  );
}

/** The switches of a step, with their titles. */
export function flagsOf(kind: Kind): [string, string][] {
  const properties = (kind.parameters as Schema).properties ?? {};
  return Object.entries(properties)
    .filter(([name, p]) => name !== "on" && (p as { type?: string }).type === "boolean")
    .map(([name, p]) => [name, (p as { title: string }).title]);
}

/** The plain numbers of a step, in the order in which they are declared. */
export function numbersOf(kind: Kind): [string, Parameter][] {
  const properties = (kind.parameters as Schema).properties ?? {};
  return Object.entries(properties).filter(
    (e): e is [string, Parameter] => e[0] !== "strength" && typeof (e[1] as Parameter).fine === "number",
  );
}

/** The ways in which a step can be blended over what it was given, to choose from. */
export function blendsOf(kind: Kind): { key: Blend; label: string }[] {
  const { blend } = (kind.parameters as Schema).properties ?? {};
  return (blend as { enum: Blend[] }).enum.map((key) => ({ key, label: key.replaceAll("_", " ") }));
}
