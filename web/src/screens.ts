/** The screens: each with its address, its code, and what it shows first. */
import type { FetchQueryOptions, QueryKey } from "@tanstack/react-query";
import { createElement, lazy, useState, type ComponentType } from "react";
import { matchPath, type Params } from "react-router";
import { asked, client } from "./api/queries";
import { askedOf } from "./catalogue/asked";
import { queryOf } from "./catalogue/filters";
import { askedOfCuts } from "./cuts/asked";
import { askedOfIntakes } from "./framesin/asked";
import { askedOfLook } from "./look/asked";
import { askedOfPeople } from "./people/asked";
import { askedOfProject } from "./projects/asked";

export interface Screen {
  path: string;
  /** Fetches its code. */
  code: () => Promise<unknown>;
  /** Asks ahead for what it shows first. */
  load: (params: Params, search: URLSearchParams) => void;
  Component: ComponentType;
}

/**
 * A screen whose code is fetched on its own. Once it is there the screen is drawn at once; React would let a
 * fallback stand for a while.
 */
function screen(
  path: string,
  fetch: () => Promise<{ default: ComponentType }>,
  load: Screen["load"] = () => undefined,
): Screen {
  let there: ComponentType | null = null;
  const code = () =>
    fetch().then((module) => {
      there = module.default;
      return module;
    });
  const Later = lazy(code);
  // Chosen once for as long as it is on the screen: switching components would lose its state.
  const Component = () => createElement(useState(() => there ?? Later)[0]);
  return { path, code, load, Component };
}

function ask<Data, Key extends QueryKey>(query: FetchQueryOptions<Data, Error, Data, Key>): void {
  void client.prefetchQuery(query);
}
const numbered = (params: Params) => Number(params.id);

export const SCREENS: Screen[] = [
  screen(
    "/bench",
    () => import("./bench/door"),
    () => {
      ask(asked.worked);
    },
  ),
  screen(
    "/bench/:id",
    () => import("./bench/bench"),
    (params) => {
      ask(asked.look(numbered(params)));
      ask(asked.kinds);
      ask(asked.finish);
    },
  ),
  screen(
    "/bench/:id/bake",
    () => import("./bake/bake"),
    (params) => {
      ask(asked.look(numbered(params)));
    },
  ),
  screen(
    "/catalogue",
    () => import("./catalogue/catalogue"),
    (_, search) => {
      void client.prefetchInfiniteQuery(askedOf.page(queryOf(search)));
      ask(askedOf.filterValues(queryOf(search)));
      ask(askedOf.scales);
    },
  ),
  screen("/catalogue/carry", () => import("./catalogue/carry")),
  screen("/catalogue/pair", () => import("./catalogue/pair")),
  screen(
    "/catalogue/bring-in",
    () => import("./bringin/begin"),
    () => {
      ask(asked.packs);
    },
  ),
  screen(
    "/catalogue/bring-in/:id",
    () => import("./bringin/pack"),
    (params) => {
      ask(asked.pack(numbered(params)));
    },
  ),
  screen("/catalogue/inspect/:kind/:key", () => import("./inspect/inspect")),
  screen(
    "/catalogue/look/:id",
    () => import("./look/look"),
    (params) => {
      ask(asked.look(numbered(params)));
      ask(askedOfLook.history(numbered(params)));
    },
  ),
  screen("/catalogue/compare", () => import("./catalogue/compare")),
  screen("/catalogue/pack-out", () => import("./catalogue/packout")),
  screen("/catalogue/sheet/:id", () => import("./sheet/sheet")),
  screen(
    "/projects",
    () => import("./projects/projects"),
    () => {
      ask(asked.projects);
    },
  ),
  screen(
    "/projects/:id",
    () => import("./projects/project"),
    (params) => {
      ask(asked.project(numbered(params)));
    },
  ),
  screen(
    "/projects/:id/wall",
    () => import("./projects/wall"),
    (params) => {
      ask(asked.project(numbered(params)));
      ask(askedOfProject.wall(numbered(params)));
    },
  ),
  screen(
    "/projects/:id/reel",
    () => import("./reel/reel"),
    (params) => {
      ask(asked.project(numbered(params)));
    },
  ),
  screen(
    "/projects/:id/review/:number",
    () => import("./projects/review"),
    (params) => {
      ask(asked.project(numbered(params)));
      ask(askedOfProject.review(numbered(params), Number(params.number)));
    },
  ),
  screen(
    "/projects/:id/cuts",
    () => import("./cuts/begin"),
    (params) => {
      ask(asked.project(numbered(params)));
      ask(askedOfCuts.all(numbered(params)));
    },
  ),
  screen(
    "/projects/:id/cuts/:cut",
    () => import("./cuts/cut"),
    (params) => {
      ask(asked.project(numbered(params)));
      ask(askedOfCuts.one(numbered(params), Number(params.cut)));
    },
  ),
  screen(
    "/projects/:id/deliver",
    () => import("./projects/deliver"),
    (params) => {
      ask(asked.project(numbered(params)));
    },
  ),
  screen(
    "/projects/:id/clip/:clip",
    () => import("./projects/clip"),
    (params) => {
      ask(asked.project(numbered(params)));
    },
  ),
  screen("/frames", () => import("./frames/frames")),
  screen(
    "/frames/in",
    () => import("./framesin/begin"),
    () => {
      ask(askedOfIntakes.all);
    },
  ),
  screen(
    "/frames/in/:id",
    () => import("./framesin/intake"),
    (params) => {
      ask(askedOfIntakes.one(numbered(params)));
    },
  ),
  screen(
    "/frames/encodings",
    () => import("./frames/encodings"),
    () => {
      ask(asked.teamEncodings);
      ask(asked.cameraForm);
    },
  ),
  screen("/people", () => import("./people/people")),
  screen(
    "/people/bin",
    () => import("./people/bin"),
    () => {
      ask(askedOfPeople.bin);
    },
  ),
];

/** Which screen an address shows, and what stands in the address. */
export function screenAt(path: string): { screen: Screen; params: Params } | null {
  for (const screen of SCREENS) {
    const match = matchPath(screen.path, path);
    if (match) return { screen, params: match.params };
  }
  return null;
}
