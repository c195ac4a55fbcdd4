import type { z } from "zod";

// What this browser keeps for the next visit: how a bench was left, what is being typed. Nothing of a tune itself.

/** The browser's own store, where it lets a page have one. */
const store = (): Storage | undefined => {
  try {
    return globalThis.localStorage;
  } catch {
    return undefined;
  }
};

/** What was kept under a name; undefined where nothing was, or nothing that can be used. */
export function kept<T extends z.ZodType>(name: string, schema: T): z.infer<T> | undefined {
  try {
    return schema.safeParse(JSON.parse(store()?.getItem(name) ?? "null")).data;
  } catch {
    return undefined;
  }
}

/** Keeps something; a full store forgets. */
export function keep(name: string, value: unknown): void {
  try {
    store()?.setItem(name, JSON.stringify(value));
  } catch {
    // Nothing of a tune is lost by it.
  }
}

export function letGo(name: string): void {
  try {
    store()?.removeItem(name);
  } catch {
    // There was no store to begin with.
  }
}
