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

/** Where a tune comes from and whether it may be copied, as it stands at the foot of a page. */
export const rightsLine = ({ source, rights }: { source: string; rights: Rights }): string =>
  [source, FOOT_WORDS.get(rights) ?? rights].filter(Boolean).join(" · ");
const FOOT_WORDS: ReadonlyMap<Rights, string> = new Map([
  ["own", "our own tune"],
  ["unknown", "rights not recorded"],
]);
