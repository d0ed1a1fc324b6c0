/** The screen of the bench from which pictures were brought in: it stands in the address of their intake. */

/** The address of an intake. back: the screen that is gone back to once it is decided on. */
export const intakePath = (id: number, back?: string) =>
  back ? `/frames/in/${id}?back=${encodeURIComponent(back)}` : `/frames/in/${id}`;

/** Where to go once an intake is decided on. Addresses of other sites and screens are none. */
export function backOf(search: URLSearchParams): string {
  const back = search.get("back") ?? "";
  return /^\/bench(\/[\w-]*)*$/.test(back) ? back : "/frames";
}
