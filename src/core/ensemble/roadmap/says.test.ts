import { expect, test } from "vitest";
import { type Column, type Roadmap, whenWords } from ".";

const column = (strain: string, pass: number, turn: number, ...plays: string[]): Column => ({
  strain,
  pass,
  turn,
  plays,
  louder: [],
});
const roadmap = (columns: Column[], more: Partial<Roadmap> = {}): Roadmap => ({
  columns,
  stretches: [],
  manner: "dance",
  times: Math.max(...columns.map((c) => c.pass)),
  introduction: 0,
  vamp: 0,
  tag: 0,
  ending: "last note",
  ...more,
});
const A1 = (who: string) => column("A", 1, 1, who);

test.each<[string, Roadmap, string]>([
  ["all of it", roadmap([A1("ann"), column("B", 1, 1, "ann")]), "Once through: you play all of it."],
  [
    "a strain of the first time",
    roadmap([A1("ben"), column("B", 1, 1, "ann"), column("A", 2, 1, "ann"), column("B", 2, 1, "ann")]),
    "Twice through. The first time rest in A.",
  ],
  [
    "one turn of two",
    roadmap([A1("ben"), column("A", 1, 2, "ann"), column("A", 2, 1, "ann"), column("A", 2, 2, "ann")]),
    "Twice through. The first time rest in the first A.",
  ],
  [
    "a whole time, and a strain of the last",
    roadmap([A1("ben"), column("B", 1, 1, "ben"), column("A", 2, 1, "ann"), column("B", 2, 1, "ben")]),
    "Twice through. The first time rest; the second time rest in B.",
  ],
  [
    "with a tag",
    roadmap([A1("ann")], { tag: 2 }),
    "Once through: you play all of it. The last 2 bars come once more at the end.",
  ],
])("when someone plays: %s", (_, of, words) => expect(whenWords(of, "ann")).toBe(words));
