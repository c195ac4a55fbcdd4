/** This page's own name among the tabs of the browser. */
export const TAB = crypto.randomUUID();

const lockOf = (tab: string) => `symphonos tab ${tab}`;
let held = false;

/** Holds a lock in this tab's name as long as it lives, so that others can tell that it does. */
export function holdTab(): void {
  if (held || !globalThis.navigator?.locks) return;
  held = true;
  void navigator.locks.request(lockOf(TAB), () => new Promise(() => {}));
}

/** Of some tabs, those that are gone. Where the browser cannot tell, every other one. */
export async function goneTabs(tabs: readonly string[]): Promise<string[]> {
  const others = [...new Set(tabs)].filter((tab) => tab !== TAB);
  const locks = await globalThis.navigator?.locks?.query();
  const living = new Set(locks?.held?.map((lock) => lock.name));
  return others.filter((tab) => !living.has(lockOf(tab)));
}

/** What tabs tell each other: a tune stands at another head now; null where the whole collection changed. */
export type News = { id: number; head: number } | null;

const CHANNEL = "symphonos";
let channel: BroadcastChannel | undefined;
const open = () => {
  if (typeof BroadcastChannel === "undefined") return undefined;
  channel ??= new BroadcastChannel(CHANNEL);
  return channel;
};

let changed = false;
/** Whether this tab has changed anything since this was last asked. */
export function takeChanged(): boolean {
  const was = changed;
  changed = false;
  return was;
}

/** Tells the other tabs. */
export function tell(news: News): void {
  changed = true;
  open()?.postMessage(news);
}

/** Listens to the other tabs until what it gives is called. */
export function listen(hear: (news: News) => void): () => void {
  const on = ({ data }: MessageEvent<News>) => hear(data);
  const own = open();
  own?.addEventListener("message", on);
  return () => own?.removeEventListener("message", on);
}
