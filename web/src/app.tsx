/** Which address shows which screen. */
import { createElement, lazy, Suspense, useState, type ComponentType } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { asked, client, somebodyWasHere, useMe } from "./api/queries";
import { askedOf } from "./catalogue/asked";
import { queryOf } from "./catalogue/filters";
import { Button } from "./kit/button";
import { Empty } from "./kit/empty";
import { askedOfProject } from "./projects/asked";
import { askedOfLook } from "./look/asked";
import { Page, TopBar } from "./kit/topbar";
import { Waiting } from "./kit/waiting";
import { askedOfPeople } from "./people/asked";
import { ComeIn } from "./people/comein";
import { SignIn } from "./people/signin";

/**
 * A screen whose code is fetched on its own. Once it is there the screen is drawn at once; React would let a
 * fallback stand for a while.
 */
function screen(fetch: () => Promise<{ default: ComponentType }>) {
  let there: ComponentType | null = null;
  const code = () =>
    fetch().then((module) => {
      there = module.default;
      return module;
    });
  const Later = lazy(code);
  // Chosen once for as long as it is on the screen: switching components would lose its state.
  const Screen = () => createElement(useState(() => there ?? Later)[0]);
  return { code, Screen };
}

const screens = {
  bench: screen(() => import("./bench/bench")),
  door: screen(() => import("./bench/door")),
  bake: screen(() => import("./bake/bake")),
  catalogue: screen(() => import("./catalogue/catalogue")),
  carry: screen(() => import("./catalogue/carry")),
  pair: screen(() => import("./catalogue/pair")),
  bringIn: screen(() => import("./bringin/begin")),
  pack: screen(() => import("./bringin/pack")),
  inspect: screen(() => import("./inspect/inspect")),
  look: screen(() => import("./look/look")),
  compare: screen(() => import("./catalogue/compare")),
  sheet: screen(() => import("./sheet/sheet")),
  packOut: screen(() => import("./catalogue/packout")),
  projects: screen(() => import("./projects/projects")),
  project: screen(() => import("./projects/project")),
  wall: screen(() => import("./projects/wall")),
  deliver: screen(() => import("./projects/deliver")),
  clip: screen(() => import("./projects/clip")),
  frames: screen(() => import("./frames/frames")),
  encodings: screen(() => import("./frames/encodings")),
  people: screen(() => import("./people/people")),
  bin: screen(() => import("./people/bin")),
};
type Name = keyof typeof screens;

/** Which screen an address shows, and the number in it. */
function placeOf(path: string): { name: Name; id: number } {
  const [place, id, part] = path.split("/").slice(1);
  const name =
    place === "bench"
      ? id
        ? part === "bake"
          ? "bake"
          : "bench"
        : "door"
      : place === "projects"
        ? id
          ? part === "wall" || part === "deliver" || part === "clip"
            ? part
            : "project"
          : "projects"
        : place === "people"
          ? id === "bin"
            ? "bin"
            : "people"
          : place === "frames"
            ? id === "encodings"
              ? "encodings"
              : "frames"
            : id === "carry"
              ? "carry"
              : id === "bring-in"
                ? part
                  ? "pack"
                  : "bringIn"
                : id === "pack-out"
                  ? "packOut"
                  : id === "inspect" || id === "pair" || id === "look" || id === "compare" || id === "sheet"
                    ? id
                    : "catalogue";
  return { name, id: Number(name === "pack" || name === "look" || name === "sheet" ? part : id) };
}

/** What the screens show first. */
const firstData: Record<Name, (id: number, search: URLSearchParams) => void> = {
  bench: (id) => {
    void client.prefetchQuery(asked.look(id));
    void client.prefetchQuery(asked.kinds);
    void client.prefetchQuery(asked.finish);
  },
  bake: (id) => void client.prefetchQuery(asked.look(id)),
  door: () => void client.prefetchQuery(asked.worked),
  catalogue: (_, search) => {
    void client.prefetchInfiniteQuery(askedOf.page(queryOf(search)));
    void client.prefetchQuery(askedOf.filterValues(queryOf(search)));
    void client.prefetchQuery(askedOf.scales);
  },
  carry: () => undefined,
  pair: () => undefined,
  bringIn: () => void client.prefetchQuery(asked.packs),
  pack: (id) => void client.prefetchQuery(asked.pack(id)),
  inspect: () => undefined,
  look: (id) => {
    void client.prefetchQuery(asked.look(id));
    void client.prefetchQuery(askedOfLook.history(id));
  },
  compare: () => undefined,
  sheet: () => undefined,
  packOut: () => undefined,
  projects: () => void client.prefetchQuery(asked.projects),
  project: (id) => void client.prefetchQuery(asked.project(id)),
  wall: (id) => {
    void client.prefetchQuery(asked.project(id));
    void client.prefetchQuery(askedOfProject.wall(id));
  },
  deliver: (id) => void client.prefetchQuery(asked.project(id)),
  clip: (id) => void client.prefetchQuery(asked.project(id)),
  people: () => undefined,
  bin: () => void client.prefetchQuery(askedOfPeople.bin),
  frames: () => undefined,
  encodings: () => {
    void client.prefetchQuery(asked.teamEncodings);
    void client.prefetchQuery(asked.cameraForm);
  },
};

/**
 * Fetches the code of the screen that the address asks for, and what it will show, while the server is asked
 * who is here. Comes to its end when the code is there, or cannot be had: then the screen itself says what is
 * wrong.
 */
export function ahead(path: string, search = ""): Promise<unknown> {
  const { name, id } = placeOf(path);
  if (path.startsWith("/sign-in") || path.startsWith("/come-in")) return Promise.resolve();
  const code = screens[name].code().catch(() => undefined);
  const data = () => {
    void client.prefetchQuery(asked.frames);
    void client.prefetchQuery(asked.encodings);
    firstData[name](id, new URLSearchParams(search));
    setTimeout(theRest, LATER);
  };
  const somebody = somebodyWasHere();
  if (somebody) data();
  void client.fetchQuery(asked.me).then(
    (person) => {
      if (person && !somebody) data();
    },
    // The screen asks again and says what is wrong.
    () => undefined,
  );
  return code;
}

/** Milliseconds until the first screen has likely loaded, so that fetching the others does not slow it. */
const LATER = 1200;

/** The code of the other screens, and what the bench needs for every look. */
function theRest(): void {
  for (const { code } of Object.values(screens)) void code().catch(() => undefined);
  void client.prefetchQuery(asked.kinds);
  void client.prefetchQuery(asked.finish);
}

function Inside() {
  const me = useMe();
  const here = useLocation();
  if (me.data === null) {
    return <Navigate to={`/sign-in?next=${encodeURIComponent(here.pathname + here.search)}`} replace />;
  }
  if (!me.data) return <Waiting query={me} what="Saucer" />;
  return (
    <Suspense
      fallback={
        <Page>
          <TopBar />
        </Page>
      }
    >
      <Routes>
        <Route path="/" element={<Navigate to="/catalogue" replace />} />
        <Route path="/bench" element={<screens.door.Screen />} />
        <Route path="/bench/:id" element={<screens.bench.Screen />} />
        <Route path="/bench/:id/bake" element={<screens.bake.Screen />} />
        <Route path="/catalogue" element={<screens.catalogue.Screen />} />
        <Route path="/catalogue/carry" element={<screens.carry.Screen />} />
        <Route path="/catalogue/pair" element={<screens.pair.Screen />} />
        <Route path="/catalogue/bring-in" element={<screens.bringIn.Screen />} />
        <Route path="/catalogue/bring-in/:id" element={<screens.pack.Screen />} />
        <Route path="/catalogue/inspect/:kind/:key" element={<screens.inspect.Screen />} />
        <Route path="/catalogue/look/:id" element={<screens.look.Screen />} />
        <Route path="/catalogue/compare" element={<screens.compare.Screen />} />
        <Route path="/catalogue/pack-out" element={<screens.packOut.Screen />} />
        <Route path="/catalogue/sheet/:id" element={<screens.sheet.Screen />} />
        <Route path="/projects" element={<screens.projects.Screen />} />
        <Route path="/projects/:id" element={<screens.project.Screen />} />
        <Route path="/projects/:id/wall" element={<screens.wall.Screen />} />
        <Route path="/projects/:id/deliver" element={<screens.deliver.Screen />} />
        <Route path="/projects/:id/clip/:clip" element={<screens.clip.Screen />} />
        <Route path="/frames" element={<screens.frames.Screen />} />
        <Route path="/people" element={<screens.people.Screen />} />
        <Route path="/people/bin" element={<screens.bin.Screen />} />
        <Route path="/frames/encodings" element={<screens.encodings.Screen />} />
        <Route
          path="*"
          element={
            <Page>
              <TopBar />
              <main>
                <NotHere />
              </main>
            </Page>
          }
        />
      </Routes>
    </Suspense>
  );
}

function NotHere() {
  return (
    <Empty title="Nothing at this address" action={<Button onPress={() => history.back()}>Go back</Button>}>
      The page may have moved. Looks are in the catalogue.
    </Empty>
  );
}

export function App() {
  return (
    <Routes>
      <Route path="/sign-in" element={<SignIn />} />
      <Route path="/come-in/:secret" element={<ComeIn />} />
      <Route path="*" element={<Inside />} />
    </Routes>
  );
}
