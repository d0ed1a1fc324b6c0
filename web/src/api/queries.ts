/** What the screens ask for, each under one key. */
import { QueryClient, queryOptions, useQuery } from "@tanstack/react-query";
import { got, Problem, server } from "./client";
import type { EncodingKey, Me } from "./types";

export const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => !(error instanceof Problem && error.status >= 400) && count < 3,
      refetchOnWindowFocus: false,
      staleTime: 15_000,
    },
  },
});

const forGood = { staleTime: Infinity };

const HERE = "saucer:here";

/**
 * Whether somebody was signed in here when this browser last asked: only then is it worth asking for more at
 * once.
 */
export const somebodyWasHere = (): boolean => localStorage.getItem(HERE) !== null;

/** Who is signed in now; `null` for nobody. */
export async function whoIsHere(): Promise<Me | null> {
  const { person, single_sign_on: way, passwords } = await got(server.GET("/api/session"));
  client.setQueryData(asked.wayIn.queryKey, { signOn: way ?? "", passwords: passwords ?? true });
  arrived(person);
  return person;
}

/** Notes who is here from now on. */
export function arrived(person: Me | null): void {
  if (person) localStorage.setItem(HERE, "1");
  else localStorage.removeItem(HERE);
  client.setQueryData(["me"], person);
}

/** What can be asked for: its key and how, for screens and for whoever fetches ahead of them. */
export const asked = {
  /** What the team's own way in is called, and whether passwords let in; told with who is here. */
  wayIn: queryOptions({
    queryKey: ["way in"],
    queryFn: () => ({ signOn: "", passwords: true }),
    enabled: false,
  }),
  me: queryOptions({ queryKey: ["me"], queryFn: whoIsHere, ...forGood }),
  encodings: queryOptions({
    queryKey: ["encodings"],
    queryFn: () => got(server.GET("/api/encodings")),
    ...forGood,
  }),
  teamEncodings: queryOptions({
    queryKey: ["encodings", "team"],
    queryFn: () => got(server.GET("/api/encodings/team")),
  }),
  cameraForm: queryOptions({
    queryKey: ["camera form"],
    queryFn: () => got(server.GET("/api/encodings/team/form")),
    ...forGood,
  }),
  kinds: queryOptions({
    queryKey: ["kinds"],
    queryFn: () => got(server.GET("/api/steps")),
    ...forGood,
  }),
  finish: queryOptions({
    queryKey: ["finish"],
    queryFn: () => got(server.GET("/api/finish")),
    ...forGood,
  }),
  frames: queryOptions({ queryKey: ["frames"], queryFn: () => got(server.GET("/api/frames")) }),
  luts: queryOptions({ queryKey: ["luts"], queryFn: () => got(server.GET("/api/luts")) }),
  lutWords: queryOptions({ queryKey: ["luts", "words"], queryFn: () => got(server.GET("/api/luts/words")) }),
  worked: queryOptions({ queryKey: ["worked"], queryFn: () => got(server.GET("/api/looks")), staleTime: 0 }),
  // Somebody else may have changed it: what was kept is shown, and asked for again.
  look: (id: number) =>
    queryOptions({
      queryKey: ["look", id],
      queryFn: () => got(server.GET("/api/looks/{look_id}", { params: { path: { look_id: id } } })),
      staleTime: 2000,
    }),
  recipe: (revision: number) =>
    queryOptions({
      queryKey: ["recipe", revision],
      queryFn: () =>
        got(
          server.GET("/api/revisions/{revision_id}/recipe", { params: { path: { revision_id: revision } } }),
        ),
      ...forGood,
    }),
  /** Revisions over one another as one look, the first one first. */
  stack: (revisions: number[]) =>
    queryOptions({
      queryKey: ["recipe", "stack", revisions],
      queryFn: () => got(server.GET("/api/revisions/stack", { params: { query: { revision: revisions } } })),
      ...forGood,
    }),
  /** A look to begin with, which takes that encoding in. */
  begun: (input: EncodingKey) =>
    queryOptions({
      queryKey: ["begun", input],
      queryFn: async () => (await got(server.POST("/api/begun", { body: { input, ways: [[]] } })))[0]!,
      ...forGood,
    }),
  packs: queryOptions({ queryKey: ["packs"], queryFn: () => got(server.GET("/api/packs")), staleTime: 0 }),
  pack: (id: number) =>
    queryOptions({
      queryKey: ["pack", id],
      queryFn: () => got(server.GET("/api/packs/{pack_id}", { params: { path: { pack_id: id } } })),
      staleTime: 0,
    }),
  projects: queryOptions({ queryKey: ["projects"], queryFn: () => got(server.GET("/api/projects")) }),
  project: (id: number) =>
    queryOptions({
      queryKey: ["project", id],
      queryFn: () => got(server.GET("/api/projects/{project_id}", { params: { path: { project_id: id } } })),
    }),
  /** The first looks in which words occur, for lists to choose one from. */
  catalogue: (q = "") => {
    const query = { limit: 200, ...(q ? { q } : {}) };
    return queryOptions({
      queryKey: ["catalogue", "list", query],
      queryFn: () => got(server.GET("/api/catalogue", { params: { query } })),
    });
  },
};

/**
 * Until it is known who was here: an answer of "nobody" that is late must not put out who has just come in.
 */
export const knowWhoWasHere = () => client.ensureQueryData(asked.me).catch(() => null);

export const useMe = () => useQuery(asked.me);
export const useEncodings = () => useQuery(asked.encodings);
export const useKinds = () => useQuery(asked.kinds);
export const useFrames = () => useQuery(asked.frames);
export const useLuts = () => useQuery(asked.luts);
export const useLook = (id: number) => useQuery(asked.look(id));
export const useProjects = () => useQuery(asked.projects);
export const useProject = (id: number) => useQuery(asked.project(id));
export const useCatalogue = (q = "") =>
  useQuery({ ...asked.catalogue(q), placeholderData: (previous) => previous });

/** The label of an encoding, or its key while the list is on its way. */
export function useEncodingLabel(): (key: string) => string {
  const { data } = useEncodings();
  return (key) => data?.find((e) => e.key === key)?.label ?? key;
}
