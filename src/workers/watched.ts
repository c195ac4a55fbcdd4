import { type Remote, wrap } from "comlink";

/** A worker could not be started, died, or gave no answer. */
export class WorkerTrouble extends Error {}

/** What a page needs of a worker; the browser's own, or a test's. */
type Started = Pick<Worker, "postMessage" | "addEventListener" | "removeEventListener" | "terminate">;
type Own<T> = { remote: Remote<T>; gone: Promise<never>; end: (why: string) => void };

/**
 * A worker that is watched: started when first asked, and anew after it could not be loaded, died or was silent for
 * longer than `patience` milliseconds. What was asked of it then fails with a WorkerTrouble that `name`s it.
 */
export function watched<T>(name: string, patience: number, make: () => Started) {
  let current: Own<T> | undefined;

  const start = (): Own<T> => {
    const worker = make();
    let fail: (error: Error) => void = () => {};
    const gone = new Promise<never>((_, reject) => {
      fail = reject;
    });
    // Everyone who asked hears of it; where nobody has, nothing is wrong yet.
    gone.catch(() => {});
    const own: Own<T> = {
      remote: wrap<T>(worker as Worker),
      gone,
      end: (why) => {
        if (current === own) current = undefined;
        worker.terminate();
        fail(new WorkerTrouble(`${name} ${why}.`));
      },
    };
    worker.addEventListener("error", (event) => {
      event.preventDefault();
      own.end((event as ErrorEvent).message ? `stopped (${(event as ErrorEvent).message})` : "could not be loaded");
    });
    worker.addEventListener("messageerror", () => own.end("sent something that could not be read"));
    return own;
  };

  return {
    /** Starts it, if it is not there, so that it is warm when it is asked. */
    warm(): void {
      current ??= start();
    },
    async ask<R>(call: (remote: Remote<T>) => Promise<R>): Promise<R> {
      current ??= start();
      const own = current;
      let timer: ReturnType<typeof setTimeout> | undefined;
      const silent = new Promise<never>((_, reject) => {
        timer = setTimeout(() => {
          own.end("gave no answer and was started anew");
          own.gone.catch(reject);
        }, patience);
      });
      try {
        return await Promise.race([call(own.remote), own.gone, silent]);
      } finally {
        clearTimeout(timer);
      }
    },
  };
}
