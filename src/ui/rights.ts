import type { Rights } from "../core/score";

/** Rights of a tune as the bench and the list say them. */
export const RIGHTS_WORDS: Record<Rights, string> = {
  unknown: "not recorded yet",
  traditional: "traditional, free to copy",
  own: "our own tune",
  permission: "copied by permission",
  licensed: "under a licence",
  "in copyright": "in copyright: no copies without leave",
};
