/** What frames are brought in for: themselves, the bench, or a project whose shots they become. */
export interface Purpose {
  /** The project whose shots they become. */
  project: number | null;
  /** The screen that is gone back to. */
  back: string;
}

const NONE: Purpose = { project: null, back: "/frames" };

export const forProject = (project: number): Purpose => ({ project, back: `/projects/${project}` });
export const forBench = (back: string): Purpose => ({ project: null, back });

/** The address of an intake with what it is for. */
export function intakePath(id: number, purpose: Purpose = NONE): string {
  if (purpose.project !== null) return `/frames/in/${id}?project=${purpose.project}`;
  return purpose.back === NONE.back
    ? `/frames/in/${id}`
    : `/frames/in/${id}?back=${encodeURIComponent(purpose.back)}`;
}

/** What an intake is for, as its address says. Addresses of other sites are nothing to go back to. */
export function purposeOf(search: URLSearchParams): Purpose {
  const project = Number(search.get("project"));
  if (Number.isInteger(project) && project > 0) return forProject(project);
  const back = search.get("back") ?? "";
  return /^\/bench(\/[\w-]*)*$/.test(back) ? forBench(back) : NONE;
}
