import type { Trouble } from "../../db";
import type { JobName } from "./jobs";

/** What goes to the thread. */
export type Order = { job: JobName; input: readonly unknown[] };
/** What went wrong there, as it can be sent: trouble with the file of tunes by its name. */
export type Fault = { words: string; trouble?: { trouble: Trouble; path: string } | undefined };
/** What comes back. */
export type Outcome = { value: unknown } | { fault: Fault };
