import type { Work } from "../../core/ensemble";
import type { Loaded, Travelled } from "../../server/states";
import { ask } from "./ask";
import { keep, letGo, type Unsaved } from "./shelf";
import { holdTab, tell } from "./tabs";

/** How it stands with what was done on a tune. */
export type Saving =
  | { kind: "saved" }
  | { kind: "saving" }
  /** The application is silent or its file cannot be written; it is tried again by itself. */
  | { kind: "waiting"; problem: string }
  /** It can never be saved as it is. */
  | { kind: "refused"; problem: string }
  /** The tune is no longer in the collection. */
  | { kind: "gone" }
  /** The tune was saved elsewhere meanwhile. */
  | { kind: "apart"; theirs: Loaded };

/** What the bench hears of its saver. */
export type Hearing = {
  saving: (saving: Saving, head: number) => void;
  /** A state to show; `remark` says why where nobody here asked for it. */
  show: (loaded: Loaded, remark: string) => void;
  fail: (problem: string) => void;
};

/** Pauses between tries, the last one over and over. Milliseconds. */
const PAUSES = [500, 1000, 2000, 4000, 8000, 15_000, 30_000];
/** Age of an unsaved step from which leaving asks first; a save takes some hundredths of that. Milliseconds. */
const WORTH_ASKING = 1000;

const ELSEWHERE = "This tune was changed in another place; here is how it stands now.";

/** Keeps the steps of one tune in order until each is acknowledged, through silence, full disks and other tabs. */
export class Saver {
  private queue: Unsaved[] = [];
  /** Steps back, forward and to earlier states: they wait until everything is saved. */
  private later: (() => Promise<void>)[] = [];
  private running = false;
  private tries = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** Looks in a row that got no answer, and when the next one is. */
  private missed = 0;
  private looking: ReturnType<typeof setTimeout> | undefined;
  private saving: Saving = { kind: "saved" };
  private hearing: Hearing | undefined;

  constructor(
    readonly id: number,
    private head: number,
  ) {}

  /** Lets a bench hear of everything from now on; tells it at once how it stands. */
  hear(hearing: Hearing): () => void {
    this.hearing = hearing;
    hearing.saving(this.saving, this.head);
    return () => {
      if (this.hearing === hearing) this.hearing = undefined;
    };
  }

  /** Steps that are not acknowledged yet, oldest first. */
  get unsaved(): readonly Unsaved[] {
    return this.queue;
  }
  get at(): number {
    return this.head;
  }
  get worthAsking(): boolean {
    const first = this.queue[0];
    return first !== undefined && (this.saving.kind !== "saving" || Date.now() - first.at > WORTH_ASKING);
  }

  save(step: string, work: Work): void {
    const unsaved = { token: crypto.randomUUID(), tune: this.id, head: this.head, step, work, at: Date.now() };
    this.add(unsaved);
    void this.run();
  }

  private add(unsaved: Unsaved) {
    this.queue.push(unsaved);
    void keep(unsaved);
  }

  /** Takes over what another tab left unsaved. */
  async adopt(steps: readonly Unsaved[]): Promise<void> {
    const [first] = steps;
    if (!first || this.queue.length > 0) return;
    this.head = first.head;
    for (const step of steps) this.add(step);
    await this.run();
  }

  travel(way: "undo" | "redo"): void {
    this.inTurn(() => ask(this.id, "travel", { head: this.head, way }));
  }
  restore(revision: number): void {
    this.inTurn(() => ask(this.id, "restore", { head: this.head, revision }));
  }

  private inTurn(go: () => ReturnType<typeof ask<"travel">>) {
    if (this.saving.kind !== "saved" && this.saving.kind !== "saving")
      return this.hearing?.fail("Going back waits until everything is saved.");
    this.later.push(async () => {
      const answer = await go();
      if (answer.ok) this.arrive(answer.value, this.later.length === 0);
      else this.hearing?.fail(answer.problem);
    });
    void this.run();
  }

  /** Goes to where a travel, or another tab, has led. */
  private arrive(found: Travelled, shown: boolean) {
    if (found.kind === "gone") return this.put({ kind: "gone" });
    const loaded = found.kind === "there" ? found.loaded : found.theirs;
    this.head = loaded.head;
    if (found.kind === "there") tell({ id: this.id, head: this.head });
    // What was done meanwhile is newer than what comes back.
    if (shown && this.queue.length === 0) this.hearing?.show(loaded, found.kind === "apart" ? ELSEWHERE : "");
  }

  /** Looks whether the tune has gone on elsewhere; follows where nothing here is unsaved. */
  async look(): Promise<void> {
    const idle = () => this.queue.length === 0 && !this.running;
    if (!idle() && this.saving.kind !== "gone") return;
    const answer = await ask(this.id, "since", { head: this.head });
    if (!answer.ok) return this.lookAgain();
    this.missed = 0;
    if (this.saving.kind === "gone" && answer.value.kind !== "gone") {
      // It is back: what was done meanwhile is saved on top, or both are shown.
      this.put({ kind: "saved" });
      void this.run();
    }
    if (answer.value.kind === "same" || !idle()) return;
    if (answer.value.kind === "there") {
      this.head = answer.value.loaded.head;
      this.hearing?.saving(this.saving, this.head);
      this.hearing?.show(answer.value.loaded, "");
    } else this.arrive(answer.value, true);
  }

  /** Looks again after a pause, as long as somebody listens: news that could not be fetched is not lost. */
  private lookAgain() {
    clearTimeout(this.looking);
    if (!this.hearing) return;
    this.looking = setTimeout(() => void this.look(), PAUSES[Math.min(this.missed, PAUSES.length - 1)]);
    this.missed++;
  }

  /** Tries at once what waits. */
  retry(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
    void this.run();
  }

  /** Settles a tune that was changed in two places. */
  async settle(take: "mine" | "theirs" | "both", both?: Work): Promise<void> {
    const [mine, saving] = [this.queue.at(-1), this.saving];
    if (saving.kind !== "apart" || !mine) return;
    const step = [...new Set(this.queue.map((s) => s.step))].join(", ").slice(0, 150);
    const sent = { head: saving.theirs.head, token: crypto.randomUUID(), take, step, mine: mine.work, both };
    const answer = await ask(this.id, "settle", sent);
    if (!answer.ok) return this.hearing?.fail(answer.problem);
    if (answer.value.kind === "apart") return this.put({ kind: "apart", theirs: answer.value.theirs });
    this.clear();
    this.arrive(answer.value, true);
    if (answer.value.kind === "there") this.put({ kind: "saved" });
  }

  /** Keeps what another tab left unsaved as a named version, beside the others. */
  async setAside(steps: readonly Unsaved[]): Promise<boolean> {
    const last = steps.at(-1);
    if (!last) return true;
    const { token, step, work } = last;
    const answer = await ask(this.id, "settle", { head: this.head, token, take: "theirs", step, mine: work });
    if (!answer.ok) this.hearing?.fail(answer.problem);
    else if (answer.value.kind === "there") for (const own of steps) void letGo(own.token);
    return answer.ok && answer.value.kind === "there";
  }

  /** Leaves out what cannot be saved, and shows the tune as it stands. */
  async leaveOut(): Promise<void> {
    this.clear();
    this.head = 0;
    this.put({ kind: "saved" });
    await this.look();
  }

  /** Keeps work as a new tune, where its own is gone; gives the new one's number. */
  async keepAnew(step: string, work: Work): Promise<number | undefined> {
    const answer = await ask(this.id, "anew", { step, work });
    if (!answer.ok) this.hearing?.fail(answer.problem);
    else this.clear();
    return answer.ok ? answer.value : undefined;
  }

  private clear() {
    for (const { token } of this.queue.splice(0)) void letGo(token);
  }

  private put(saving: Saving) {
    this.saving = saving;
    this.hearing?.saving(saving, this.head);
  }

  private async run(): Promise<void> {
    if (this.running || this.timer !== undefined || this.saving.kind === "apart" || this.saving.kind === "gone") return;
    this.running = true;
    holdTab();
    while (await this.next());
    this.running = false;
  }

  /** Does what comes next; false where there is nothing, or nothing can be done now. */
  private async next(): Promise<boolean> {
    const step = this.queue[0];
    if (!step) {
      const then = this.later.shift();
      if (then) await then();
      else if (this.saving.kind !== "gone") this.put({ kind: "saved" });
      return then !== undefined;
    }
    if (this.saving.kind !== "waiting") this.put({ kind: "saving" });
    const { token, work } = step;
    const answer = await ask(this.id, "save", { head: this.head, token, step: step.step, work });
    if (!answer.ok) return this.hold(answer);
    this.tries = 0;
    if (answer.value.kind === "kept") {
      this.head = answer.value.head;
      this.queue.shift();
      const after = this.queue[0];
      if (after) after.head = this.head;
      void letGo(token, after);
      tell({ id: this.id, head: this.head });
      this.put({ kind: this.queue.length > 0 ? "saving" : "saved" });
      return true;
    }
    this.later = [];
    this.put(answer.value.kind === "gone" ? { kind: "gone" } : { kind: "apart", theirs: answer.value.theirs });
    return false;
  }

  /** Nothing was saved: waits for the next try, or says that there is none. */
  private hold({ problem, again }: { problem: string; again: boolean }): boolean {
    this.later = [];
    if (!again) {
      this.put({ kind: "refused", problem });
      return false;
    }
    this.put({ kind: "waiting", problem });
    const pause = PAUSES[Math.min(this.tries++, PAUSES.length - 1)];
    this.timer = setTimeout(() => this.retry(), pause);
    return false;
  }
}

const savers = new Map<number, Saver>();

/**
 * The saver of a tune. One with unsaved steps outlives its bench: it goes on trying while other pages are shown, and
 * the bench finds it again.
 */
export function saverOf(id: number, head: number): Saver {
  if (typeof window === "undefined") return new Saver(id, head);
  const known = savers.get(id);
  if (known?.unsaved.length) return known;
  const saver = new Saver(id, head);
  savers.set(id, saver);
  return saver;
}

if (typeof window !== "undefined") {
  window.addEventListener("beforeunload", (event) => {
    if ([...savers.values()].some((saver) => saver.worthAsking)) event.preventDefault();
  });
  window.addEventListener("online", () => {
    for (const saver of savers.values()) saver.retry();
  });
}
