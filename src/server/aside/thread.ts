// The thread that long work runs in. One order at a time; whatever happens is answered.
import { parentPort } from "node:worker_threads";
import { databasePath, troubleOf } from "../../db";
import { JOBS } from "./jobs";
import type { Order, Outcome } from "./protocol";

async function outcome({ job, input }: Order): Promise<Outcome> {
  try {
    const run = JOBS[job] as (...sent: readonly unknown[]) => unknown;
    return { value: await run(...input) };
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    const found = troubleOf(error, databasePath());
    return { fault: { words, trouble: found && { trouble: found.trouble, path: found.path } } };
  }
}

parentPort?.on("message", (order: Order) => void outcome(order).then((done) => parentPort?.postMessage(done)));
