/** Which address shows which screen. */
import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { Problem } from "./api/client";
import { useMe } from "./api/queries";
import { Button } from "./kit/controls";
import { Empty, Waiting } from "./kit/sheet";
import { Page, TopBar } from "./kit/topbar";
import { SignIn } from "./people/signin";

const Bench = lazy(() => import("./bench/bench"));
const BenchDoor = lazy(() => import("./bench/door"));
const Catalogue = lazy(() => import("./catalogue/catalogue"));
const Projects = lazy(() => import("./projects/projects"));
const Project = lazy(() => import("./projects/project"));
const Frames = lazy(() => import("./frames/frames"));

function Inside() {
  const me = useMe();
  const here = useLocation();
  if (me.error instanceof Problem && me.error.status === 401) {
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
