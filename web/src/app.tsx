/** What stands at an address: a screen for who is signed in, or a way in. */
import { Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { asked, client, somebodyWasHere, useMe } from "./api/queries";
import { Button } from "./kit/button";
import { Empty } from "./kit/empty";
import { Page, TopBar } from "./kit/topbar";
import { Waiting } from "./kit/waiting";
import { ComeIn } from "./people/comein";
import { SignIn } from "./people/signin";
import { screenAt, SCREENS } from "./screens";

/** Where one comes to without naming a screen. */
const FIRST = "/catalogue";

/**
 * Fetches the code of the screen that the address asks for, and what it will show, while the server is asked
 * who is here. Comes to its end when the code is there, or cannot be had: then the screen itself says what is
 * wrong.
 */
export function ahead(path: string, search = ""): Promise<unknown> {
  const at = screenAt(path === "/" ? FIRST : path);
  if (!at) return Promise.resolve();
  const code = at.screen.code().catch(() => undefined);
  const data = () => {
    void client.prefetchQuery(asked.frames);
    void client.prefetchQuery(asked.encodings);
    at.screen.load(at.params, new URLSearchParams(search));
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
  for (const { code } of SCREENS) void code().catch(() => undefined);
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
        <Route path="/" element={<Navigate to={FIRST} replace />} />
        {SCREENS.map(({ path, Component }) => (
          <Route key={path} path={path} Component={Component} />
        ))}
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
