/** Which address shows which screen. */
import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { api } from "./api/client";
import { client, somebodyWasHere, useMe, whoIsHere } from "./api/queries";
import { Button } from "./kit/controls";
import { Empty, Waiting } from "./kit/sheet";
import { Page, TopBar } from "./kit/topbar";
import { SignIn } from "./people/signin";

const screens = {
  bench: () => import("./bench/bench"),
  door: () => import("./bench/door"),
  catalogue: () => import("./catalogue/catalogue"),
  projects: () => import("./projects/projects"),
  project: () => import("./projects/project"),
  frames: () => import("./frames/frames"),
};
const Bench = lazy(screens.bench);
const BenchDoor = lazy(screens.door);
const Catalogue = lazy(screens.catalogue);
const Projects = lazy(screens.projects);
const Project = lazy(screens.project);
const Frames = lazy(screens.frames);

/** The code of the screen that the address asks for is fetched while the server is asked who is here, and what it will show. */
export function ahead(path: string): void {
  const [place, id] = path.split("/").slice(1);
  const screen = place === "bench" ? (id ? "bench" : "door") : place === "projects" ? (id ? "project" : "projects") : place === "frames" ? "frames" : "catalogue";
  if (place === "sign-in") return;
  void screens[screen]();
  const data = () => {
    void client.prefetchQuery({ queryKey: ["frames"], queryFn: () => api.get("/frames") });
    void client.prefetchQuery({ queryKey: ["encodings"], queryFn: () => api.get("/encodings"), staleTime: Infinity });
    if (screen === "bench") {
      void client.prefetchQuery({ queryKey: ["look", Number(id)], queryFn: () => api.get(`/looks/${id}`) });
      forTheBench();
    } else {
      // Where looks are chosen, the bench is what comes next: fetched when there is nothing better to do.
      setTimeout(forTheBench, LATER);
    }
  };
  const somebody = somebodyWasHere();
  if (somebody) data();
  void client.fetchQuery({ queryKey: ["me"], queryFn: whoIsHere, staleTime: Infinity }).then(
    (person) => {
      if (person && !somebody) data();
    },
    // The screen asks again and says what is wrong.
    () => undefined,
  );
}

const LATER = 1200;

function forTheBench(): void {
  void screens.bench();
  void client.prefetchQuery({ queryKey: ["kinds"], queryFn: () => api.get("/steps"), staleTime: Infinity });
  void client.prefetchQuery({ queryKey: ["finish"], queryFn: () => api.get("/finish"), staleTime: Infinity });
}

function Inside() {
  const me = useMe();
  const here = useLocation();
  if (me.data === null) {
    return <Navigate to={`/sign-in?next=${encodeURIComponent(here.pathname + here.search)}`} replace />;
  }
  if (!me.data) return <Waiting query={me} what="Saucer" />;
  return (
    <Suspense fallback={<Page><TopBar /></Page>}>
      <Routes>
        <Route path="/" element={<Navigate to="/catalogue" replace />} />
        <Route path="/bench" element={<BenchDoor />} />
        <Route path="/bench/:id" element={<Bench />} />
        <Route path="/catalogue" element={<Catalogue />} />
        <Route path="/projects" element={<Projects />} />
        <Route path="/projects/:id" element={<Project />} />
        <Route path="/frames" element={<Frames />} />
        <Route path="*" element={<Page><TopBar /><main><NotHere /></main></Page>} />
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
      <Route path="*" element={<Inside />} />
    </Routes>
  );
}
