/** What the screens ask for, each under one key. */
import { QueryClient, useQuery } from "@tanstack/react-query";
import { api, Problem } from "./client";
import type { BorrowedLut, Catalogue, Encoding, Frame, Job, Kind, LookRecord, Me, Project, ProjectLine, Session } from "./types";

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

/** Whether somebody was signed in here when this browser last asked: only then is it worth asking for more at once. */
export const somebodyWasHere = (): boolean => localStorage.getItem(HERE) !== null;

/** Who is signed in now; `null` for nobody. */
export async function whoIsHere(): Promise<Me | null> {
  const { person } = await api.get<Session>("/session");
  arrived(person);
  return person;
}

/** Notes who is here from now on. */
export function arrived(person: Me | null): void {
  if (person) localStorage.setItem(HERE, "1");
  else localStorage.removeItem(HERE);
  client.setQueryData(["me"], person);
}

export const useMe = () => useQuery({ queryKey: ["me"], queryFn: whoIsHere, ...forGood });
export const useEncodings = () =>
  useQuery({ queryKey: ["encodings"], queryFn: () => api.get<Encoding[]>("/encodings"), ...forGood });
export const useKinds = () => useQuery({ queryKey: ["kinds"], queryFn: () => api.get<Kind[]>("/steps"), ...forGood });
export const useFrames = () => useQuery({ queryKey: ["frames"], queryFn: () => api.get<Frame[]>("/frames") });
export const useLuts = () => useQuery({ queryKey: ["luts"], queryFn: () => api.get<BorrowedLut[]>("/luts") });
export const useLook = (id: number) =>
  useQuery({ queryKey: ["look", id], queryFn: () => api.get<LookRecord>(`/looks/${id}`), staleTime: 0 });
export const useProjects = () =>
  useQuery({ queryKey: ["projects"], queryFn: () => api.get<ProjectLine[]>("/projects") });
export const useProject = (id: number, busy: (project: Project | undefined) => boolean) =>
  useQuery({
    queryKey: ["project", id],
    queryFn: () => api.get<Project>(`/projects/${id}`),
    refetchInterval: (query) => (busy(query.state.data) ? 700 : false),
  });
export const useJobs = () => useQuery({ queryKey: ["jobs"], queryFn: () => api.get<Job[]>("/jobs") });

export const useCatalogue = (q: string, tags: string[], status: string) => {
  const search = new URLSearchParams([["q", q], ...tags.map((t): [string, string] => ["tag", t]), ["status", status]]);
  return useQuery({
    queryKey: ["catalogue", search.toString()],
    queryFn: () => api.get<Catalogue>(`/catalogue?${search}`),
    placeholderData: (previous) => previous,
  });
};

/** The label of an encoding, or its key while the list is on its way. */
export function useEncodingLabel(): (key: string) => string {
  const { data } = useEncodings();
  return (key) => data?.find((e) => e.key === key)?.label ?? key;
}
