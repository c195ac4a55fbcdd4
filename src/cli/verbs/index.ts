import type { Tune } from "../../core/score";
import type { Options, Verb } from "../arguments";
import { analysed } from "./analysed";
import { arranged } from "./arranged";
import { chorded } from "./chorded";
import { converted } from "./converted";
import { felt } from "./felt";
import { harmonised } from "./harmonised";
import { parted } from "./parted";
import { stroked } from "./stroked";
import { weighed } from "./weighed";

export { catalogue } from "./catalogue";

export type Result = { json: object } | { content: string | Uint8Array };

/** What each verb makes of one tune. */
export const VERBS: Record<Verb, (tune: Tune, options: Options) => Result> = {
  analyse: (tune, options) => ({ json: analysed(tune, options) }),
  chords: (tune, options) => ({ json: chorded(tune, options) }),
  harmony: (tune, options) => ({ json: harmonised(tune, options) }),
  feel: (tune, options) => ({ json: felt(tune, options) }),
  strokes: (tune, options) => ({ json: stroked(tune, options) }),
  arrange: (tune, options) => ({ json: arranged(tune, options) }),
  difficulty: (tune, options) => ({ json: weighed(tune, options) }),
  parts: (tune, options) => ({ json: parted(tune, options) }),
  convert: (tune, options) => ({ content: converted(tune, options) }),
};
