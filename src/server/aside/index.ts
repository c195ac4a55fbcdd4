// Aside: long work beside the application, so that other pages answer meanwhile. In: a job and its input. Out: what it
// gives, or why it could not be done, in time.
import { resolve } from "node:path";
import { Worker } from "node:worker_threads";
import { DatabaseTrouble } from "../../db";
import { Refusal } from "../answer";
import type { JobName, Jobs } from "./jobs";
import { LIMITS } from "./limits";
import type { Order, Outcome } from "./protocol";

/** Compiled at set-up; a thread is not part of any page. */
const THREAD = "dist/aside.js";
/** The most memory a thread may take, in megabytes; one that asks for more ends alone. */
const MEMORY = 700;

type Waiting = {
  order: Order;
  most: number;
  long: string;
  done: (value: unknown) => void;
  fail: (error: Error) => void;
};

/** One thread with the orders that wait for it. It is started when first asked for, and anew after it was ended. */
class Lane {
  private thread: Worker | undefined;
  private waiting: Waiting[] = [];
  private current: Waiting | undefined;
  private timer: NodeJS.Timeout | undefined;

  ask(waiting: Waiting) {
    this.waiting.push(waiting);
    this.next();
  }

  private started(): Worker {
    if (this.thread) return this.thread;
    const thread = new Worker(resolve(/* turbopackIgnore: true */ process.cwd(), THREAD), {
      resourceLimits: { maxOldGenerationSizeMb: MEMORY },
    });
    thread.on("message", (outcome: Outcome) => this.answered(thread, outcome));
    thread.on("error", (error: Error) => this.ended(thread, error));
    thread.on("exit", () => this.ended(thread, new Error("The thread ended.")));
    thread.unref();
    this.thread = thread;
    return thread;
  }

  private next() {
    if (this.current) return;
    this.current = this.waiting.shift();
    if (!this.current) return;
    const { order, most, long } = this.current;
    const thread = this.started();
    this.timer = setTimeout(() => {
      this.ended(thread, new Refusal(long));
      void thread.terminate();
    }, most);
    thread.postMessage(order);
  }

  private answered(thread: Worker, outcome: Outcome) {
    const { current } = this;
    if (thread !== this.thread || !current) return;
    this.finish();
    if ("value" in outcome) current.done(outcome.value);
    else {
      const { words, trouble } = outcome.fault;
      current.fail(trouble ? new DatabaseTrouble(trouble.trouble, trouble.path) : new Error(words));
    }
    this.next();
  }

  private finish() {
    clearTimeout(this.timer);
    this.current = undefined;
  }

  /** The thread is gone: what it was at fails, what waits goes to a new one. */
  private ended(thread: Worker, error: Error) {
    if (thread !== this.thread) return;
    this.thread = undefined;
    const { current } = this;
    this.finish();
    const memory = (error as NodeJS.ErrnoException).code === "ERR_WORKER_OUT_OF_MEMORY";
    current?.fail(memory ? new Refusal(`${current.long} (It needs too much memory.)`) : error);
    this.next();
  }
}

const shared = globalThis as typeof globalThis & { symphonosLanes?: Map<string, Lane> };

/**
 * Runs a job beside the application. Throws what the job throws; a Refusal where it takes longer, or more memory, than
 * any tune needs.
 */
export function aside<Name extends JobName>(
  job: Name,
  ...input: Parameters<Jobs[Name]>
): Promise<Awaited<ReturnType<Jobs[Name]>>> {
  shared.symphonosLanes ??= new Map();
  const { lane: name, most, long } = LIMITS[job];
  const lane = shared.symphonosLanes.get(name) ?? new Lane();
  shared.symphonosLanes.set(name, lane);
  return new Promise((done, fail) =>
    lane.ask({ order: { job, input }, most, long, done: done as (value: unknown) => void, fail }),
  );
}
