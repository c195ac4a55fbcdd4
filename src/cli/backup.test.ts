import { mkdtempSync, readdirSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { GOOD, run } from "../testing/commandLine";

describe("backups on the command line", () => {
  const db = join(mkdtempSync(join(tmpdir(), "cli-backup-")), "tunes.db");
  const backup = (...args: string[]) => {
    process.env.SYMPHONOS_DB = db;
    return run(["backup", ...args]);
  };
  it("are made, listed with what they hold, and brought back", async () => {
    const { openDatabase } = await import("../db");
    const { takeIn } = await import("../server/collection");
    const open = openDatabase(db);
    takeIn(open, GOOD);
    const made = (await backup("make")).lines[0]!;
    expect(made).toMatchObject({ occasion: "on request", tunes: 1 });
    open.$client.exec("DELETE FROM tunes");
    expect((await backup("restore", String(made.name))).lines).toEqual([{ restored: made.name, tunes: 1 }]);
    expect(open.$client.prepare("SELECT title FROM tunes").pluck().all()).toEqual(["Tar and Twine"]);
    const listed = await backup();
    expect(listed.lines.map((l) => [l.occasion, l.tunes])).toEqual([
      ["before a return", 0],
      ["on request", 1],
    ]);
    open.$client.close();
  });
  it("bring a collection back that is damaged, and keep what was there beside it", async () => {
    const [{ name }] = (await backup("make")).lines as [{ name: string }];
    writeFileSync(db, "nothing of worth ".repeat(1000));
    expect((await backup("make")).err).toContain(`${db}: the file is damaged`);
    expect(await backup("restore", name)).toMatchObject({ code: 0, lines: [{ tunes: 1 }] });
    const beside = readdirSync(join(db, "..")).filter((f) => f.includes("put-aside"));
    expect(beside.length).toBeGreaterThan(0);
  });
  it("say what is wrong with what was asked", async () => {
    expect(await backup("restore", "nothing.db")).toMatchObject({ code: 1, err: expect.stringContaining("no backup") });
    expect(await backup("mend")).toMatchObject({ code: 2, err: expect.stringContaining("Usage:") });
  });
});
