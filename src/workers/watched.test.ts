import { MessageChannel, type MessagePort } from "node:worker_threads";
import { expose } from "comlink";
import { describe, expect, it } from "vitest";
import { WorkerTrouble, watched } from "./watched";

type Talk = { answer: (n: number) => number; never: () => number };
type Listener = (event: { data?: unknown; message?: string; preventDefault: () => void }) => void;

/** A worker whose other end runs here, and that can be made to fail. */
class FakeWorker {
  static made: FakeWorker[] = [];
  terminated = false;
  private listeners = new Map<string, Listener[]>();
  private port: MessagePort;
  constructor() {
    FakeWorker.made.push(this);
    const { port1, port2 } = new MessageChannel();
    this.port = port1;
    const own: Talk = { answer: (n) => n + 1, never: () => new Promise(() => {}) as never };
    expose(own, {
      postMessage: (message: unknown) => port2.postMessage(message),
      addEventListener: (_: string, on: Listener) =>
        port2.on("message", (data) => on({ data, preventDefault: () => {} })),
      removeEventListener: () => {},
    } as never);
    port1.on("message", (data) => this.fire("message", { data }));
  }
  postMessage(message: unknown) {
    this.port.postMessage(message);
  }
  addEventListener(type: string, on: Listener) {
    this.listeners.set(type, [...(this.listeners.get(type) ?? []), on]);
  }
  removeEventListener() {}
  fire(type: string, event: { data?: unknown; message?: string }) {
    for (const on of this.listeners.get(type) ?? []) on({ preventDefault: () => {}, ...event });
  }
  terminate() {
    this.terminated = true;
    this.port.close();
  }
}
const make = () => {
  FakeWorker.made = [];
  return watched<Talk>("The helper", 60, () => new FakeWorker() as never);
};

describe("a watched worker", () => {
  it("is started once, when first asked, and answers", async () => {
    const helper = make();
    expect(FakeWorker.made).toHaveLength(0);
    helper.warm();
    expect(await Promise.all([1, 2].map((n) => helper.ask((r) => r.answer(n))))).toEqual([2, 3]);
    expect(FakeWorker.made).toHaveLength(1);
  });
  it("that cannot be loaded fails everyone who asked, by name, and is started anew", async () => {
    const helper = make();
    const asked = [helper.ask((r) => r.never()), helper.ask((r) => r.never())];
    FakeWorker.made[0]!.fire("error", {});
    for (const one of asked) await expect(one).rejects.toThrow("The helper could not be loaded.");
    expect(FakeWorker.made[0]!.terminated).toBe(true);
    expect(await helper.ask((r) => r.answer(1))).toBe(2);
    expect(FakeWorker.made).toHaveLength(2);
  });
  it("that dies, or sends what cannot be read, is told by what happened", async () => {
    const helper = make();
    const died = helper.ask((r) => r.never());
    FakeWorker.made[0]!.fire("error", { message: "out of memory" });
    await expect(died).rejects.toThrow("The helper stopped (out of memory).");
    const unread = helper.ask((r) => r.never());
    FakeWorker.made[1]!.fire("messageerror", {});
    await expect(unread).rejects.toBeInstanceOf(WorkerTrouble);
  });
  it("that is silent is ended, and the next question goes to a new one", async () => {
    const helper = make();
    await expect(helper.ask((r) => r.never())).rejects.toThrow("The helper gave no answer and was started anew.");
    expect(FakeWorker.made[0]!.terminated).toBe(true);
    expect(await helper.ask((r) => r.answer(4))).toBe(5);
  });
  it("passes on what its work throws, and lives on", async () => {
    const helper = watched<{ wrong: () => number }>("The helper", 60, () => new FakeWorker() as never);
    await expect(helper.ask((r) => r.wrong())).rejects.toThrow();
    expect(FakeWorker.made.at(-1)!.terminated).toBe(false);
  });
});
