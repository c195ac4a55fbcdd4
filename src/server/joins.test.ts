import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { type Db, openDatabase } from "../db";
import { takeIn } from "./collection";
import { followers } from "./joins";

const abc = (title: string, key: string, last: string, metre = "4/4") =>
  `X:1\nT:${title}\nM:${metre}\nL:1/8\nQ:1/4=120\nK:${key}\n|:d2fd Adfd|e2ge Bege:|d2fd Adfa|gfed ${last}4|\n`;
let db: Db;
const taken = (text: string) => takeIn(db, text).added[0]!.id;
beforeEach(() => {
  db = openDatabase(join(mkdtempSync(join(tmpdir(), "joins-")), "test.db"));
});

describe("tunes that one can go on into", () => {
  it("are the others of the shelf, each with its key, its metre, its last note and how long it lasts", () => {
    const first = taken(abc("First", "D", "d"));
    const second = taken(abc("Second", "G", "g"));
    expect(followers(db, first)).toMatchObject([
      { id: second, title: "Second", key: { tonic: "G", mode: "major" }, metre: { beats: 4, unit: 4 }, final: 7 },
    ]);
    // Six bars as played, four quarters each, at 120.
    expect(followers(db, first)[0]?.seconds).toBeCloseTo(12, 5);
    expect(followers(db, second).map((t) => t.title)).toEqual(["First"]);
  });
  it("are none where there is no other, and all for a tune that is not there", () => {
    const only = taken(abc("Only", "D", "d"));
    expect(followers(db, only)).toEqual([]);
    expect(followers(db, 999).map((t) => t.title)).toEqual(["Only"]);
  });
});
