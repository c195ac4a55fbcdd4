import { cache } from "react";
import { database } from "../db";
import { load } from "./collection";

/** The tune an address names, read once for all that one page asks of it; undefined where there is none. */
export const tuneOf = cache((id: string) => (/^[1-9]\d{0,9}$/.test(id) ? load(database(), Number(id)) : undefined));
