/**
 * The finish: picture effects that previews and stills show and no table holds. Its rows stand outside the
 * bracket.
 */
import { useQuery } from "@tanstack/react-query";
import { Button as AriaButton, Menu, MenuItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { asked } from "../api/queries";
import type { Finish, Look, Parameter } from "../api/types";
import { Amount } from "../kit/amount";
import { Button } from "../kit/button";
import { Choice } from "../kit/choice";
import { Gap, Said } from "../kit/layout";
import { Menued } from "../kit/menued";
import { Switch } from "../kit/switch";
import { useCalm } from "./calm";
import { useBench } from "./store";

export type EffectName = keyof Finish;
const NAMES: [EffectName, string][] = [
  ["softening", "Softening"],
  ["sharpening", "Sharpening"],
  ["glow", "Glow"],
  ["light_wash", "Light wash"],
  ["vignette", "Vignette"],
  ["grain", "Grain"],
];

const useDeclared = () => useQuery(asked.finish).data;
const schemaName = (name: EffectName) =>
  name
    .split("_")
    .map((w) => w[0]!.toUpperCase() + w.slice(1))
    .join("");

const put = (name: EffectName, what: string, value: unknown, defaults: Finish) => {
  const change = (d: Look): Look => {
    const finish = d.finish ?? defaults;
    return { ...d, finish: { ...finish, [name]: { ...finish[name], [what]: value } } };
  };
  useBench.getState().change(NAMES.find(([n]) => n === name)![1], change, `finish|${name}|${what}`);
};

const Coloured = styled.fieldset`
  margin-top: 12px;
`;
const Rows = styled.div`
  margin: 2px 8px 0 18px;
  padding-top: 6px;
  border-top: 1px dashed var(--g4);
  header {
    display: flex;
    align-items: center;
    color: var(--t2);
    font-size: 12px;
  }
  header span {
    flex: 1;
  }
  .effect {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 2px 0;
  }
  .effect > button {
    flex: 1;
    text-align: left;
    background: none;
    border: 0;
    padding: 5px 6px;
    border-radius: 4px;
    cursor: pointer;
  }
  .effect > button[aria-pressed="true"] {
    background: var(--g3);
  }
  small {
    color: var(--t2);
    margin-left: 6px;
  }
`;

export function FinishRows(props: {
  readOnly: boolean;
  chosen: EffectName | null;
  onChoose: (name: EffectName) => void;
}) {
  const declared = useDeclared();
  const own = useCalm((c) => c.draft.finish);
  if (!declared) return null;
  const finish = own ?? declared.defaults;
  const set = NAMES.filter(([n]) => finish[n].amount !== 0);
  const free = NAMES.filter(([n]) => finish[n].amount === 0);
  return (
    <Rows role="group" aria-label="Finish, not baked">
      <header>
        <span>finish, not baked</span>
        {props.readOnly || !free.length ? null : (
          <MenuTrigger>
            <Button look="quiet" aria-label="Add a finish">
              + finish
            </Button>
            <Menued placement="top end">
              <Menu
                aria-label="Effects"

                onAction={(key) => {
                  put(key as EffectName, "amount", declared.begins[key as EffectName], declared.defaults);
                  props.onChoose(key as EffectName);
                }}
              >
                {free.map(([n, title]) => (
                  <MenuItem key={n} id={n}>
                    {title}
                  </MenuItem>
                ))}
              </Menu>
            </Menued>
          </MenuTrigger>
        )}
      </header>
      {set.map(([n, title]) => (
        <div key={n} className="effect">
          <AriaButton aria-pressed={props.chosen === n} onPress={() => props.onChoose(n)}>
            {title}
            <small>{Math.round(finish[n].amount * 100)} %</small>
          </AriaButton>
          <Switch
            hidden
            label={`${title} on`}
            on={finish[n].on}
            disabled={props.readOnly}
            onChange={(on) => put(n, "on", on, declared.defaults)}
          />
        </div>
      ))}
    </Rows>
  );
}

/** The editor of one effect. */
export function FinishControl({ name, draft }: { name: EffectName; draft: Look }) {
  const declared = useDeclared();
  if (!declared) return null;
  const { defaults } = declared;
  const own = (draft.finish ?? defaults)[name] as unknown as Record<
    string,
    number | string | Record<string, number>
  >;
  const { effects } = declared;
  const schema = effects[schemaName(name)]!;
  const title = NAMES.find(([n]) => n === name)![1];
  return (
    <>
      <header>
        <h1>{title}</h1>
        <span>finish · seen, never baked</span>
      </header>
      <Said>{schema.description}</Said>
      <Gap />
      {Object.entries(schema.properties).map(([key, given]) => {
        const p = given as Parameter & {
          enum?: string[];
          title?: string;
          type?: string;
          minimum?: number;
          maximum?: number;
          $ref?: string;
        };
        if (typeof p.fine === "number")
          return (
            <Amount
              key={key}
              parameter={p}
              value={own[key] as number}
              onChange={(v) => put(name, key, v, defaults)}
            />
          );
        if (p.enum) {
          return (
            <Choice
              key={key}
              look="inline"
              label={key[0]!.toUpperCase() + key.slice(1)}
              chosen={own[key] as string}
              onChange={(v) => put(name, key, v, defaults)}
              options={p.enum.map((e) => ({ key: e, label: e.replace("_", " ") }))}
            />
          );
        }
        if (p.type === "integer") {
          const whole = {
            ...p,
            label: p.title ?? key,
            unit: "",
            fine: 1,
            coarse: 10,
            scale: 1,
            help: "",
            minimum: 0,
            maximum: 999,
            default: 1,
          };
          return (
            <Amount
              key={key}
              parameter={whole}
              value={own[key] as number}
              onChange={(v) => put(name, key, Math.round(v), defaults)}
            />
          );
        }
        const colour = own[key];
        if (typeof colour !== "object") return null;
        return (
          <Coloured key={key}>
            <h2>{p.title ?? key}</h2>
            {Object.entries(effects.Colour!.properties).map(([part, declaredPart]) => {
              const number = declaredPart as Parameter;
              return typeof number.fine === "number" ? (
                <Amount
                  key={part}
                  parameter={number}
                  value={colour[part] as number}
                  onChange={(v) => put(name, key, { ...colour, [part]: v }, defaults)}
                />
              ) : null;
            })}
          </Coloured>
        );
      })}
      <Gap />
      <Button onPress={() => put(name, "amount", 0, defaults)}>Take {title.toLowerCase()} away</Button>
    </>
  );
}
