import type { Tune } from "./model";

/** What is written about a tune, where nothing is: a title and the music are still to come. */
export const BLANK: Omit<Tune, "title" | "key" | "metre" | "unit" | "strains" | "tempo"> = {
  version: 1,
  otherTitles: [],
  composer: "",
  origin: "",
  source: "",
  rights: "unknown",
  notes: "",
  rhythm: "",
  verses: [],
};
