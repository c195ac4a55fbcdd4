import { describe, expect, it } from "vitest";
import { tuneOf } from "../../testing/abc";
import { Tune } from "../../core/score";
import { addressOf } from "../tunes/address";
import { keyCap, NOTE_EDITS } from "./noteEdits";

const ALL = NOTE_EDITS.flatMap((g) => g.edits);
/** Keys the bench keeps for itself while a note is chosen: lenses, lines, sound, locks, undo. */
const TAKEN = [
  " ",
  "Enter",
  "Escape",
  "t",
  "g",
  "d",
  "y",
  "p",
  "m",
  "n",
  "c",
  "k",
  "l",
  "h",
  "-",
  "+",
  "=",
  "?",
  "Mod+z",
  "Mod+y",
  "ArrowLeft",
  "ArrowRight",
];

describe("edits of a note", () => {
  it("each have a key of their own, none of the bench's, and a name", () => {
    expect(new Set(ALL.map((e) => e.keys)).size).toBe(ALL.length);
    expect(new Set(ALL.map((e) => e.name)).size).toBe(ALL.length);
    expect(ALL.filter((e) => TAKEN.includes(e.keys))).toEqual([]);
  });
  it("each change an ordinary note, or say why not", () => {
    for (const { name, edit } of ALL) {
      const tune = tuneOf("d2e2 f2{g}f2|g8|");
      const { tune: after, refused } = edit(tune, { bar: 0, event: 2 });
      expect(after ? Tune.safeParse(after).success : refused!.length > 15, name).toBe(true);
      if (after && name !== "No grace notes" && name !== "quarter" && name !== "Natural" && name !== "Sharp")
        expect(JSON.stringify(after), name).not.toBe(JSON.stringify(tune));
    }
  });
  it("show their keys as they stand on the keyboard", () => {
    expect(["Shift+ArrowUp", "Mod+ArrowDown", "x", "Delete", "."].map(keyCap)).toEqual([
      "⇧↑",
      "CTRL ↓",
      "X",
      "DEL",
      ".",
    ]);
  });
});

it("the list's address keeps what is asked for and nothing else", () => {
  expect(addressOf({})).toBe("/");
  expect(addressOf({ find: "salt & tar", sort: "key", down: true, tag: undefined, pitches: 6 }, { shown: 100 })).toBe(
    "/?find=salt+%26+tar&sort=key&down=1&pitches=6&shown=100",
  );
});
