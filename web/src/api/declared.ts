/** Facts that the server declared (`server/saucer_server/declared.py`), with the types of the document. */
import facts from "./declared.json";
import type { components } from "./schema";

// A JSON module has no literal types; the document and the file are made in one step and compared by a test.
export const declared = facts as components["schemas"]["Declared"];
