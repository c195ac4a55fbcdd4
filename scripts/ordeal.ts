// Breaks the application on purpose and reports. Usage: npm run ordeal -- [ROUNDS] (after npm run build).
// Every round imports, edits and undoes while a backup may be running, kills the application in the middle, and counts
// what was acknowledged against what is there. Then: pages while a book comes in, a full disk, and a poisoned batch.
import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { newWork } from "../src/core/ensemble";
import { readAbc } from "../src/core/formats";
import { backupPath, backupsOf, checkBackup } from "../src/db";
import { numbers } from "../src/testing/mutate";

const ROUNDS = Number(process.argv[2] ?? 200);
const PORT = Number(process.env.PORT ?? 3191);
const ADDRESS = `http://127.0.0.1:${PORT}`;
const next = numbers(13);
const pick = (n: number) => Math.floor(next() * n);
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

const LETTERS = "ABCDEFGabcdefg";
const music = () =>
  Array.from({ length: 32 }, () => LETTERS[pick(LETTERS.length)])
    .join("")
    .replace(/(.{8})/g, "$1|");
const abc = (title: string) => `X:1\nT:${title}\nM:4/4\nL:1/8\nK:D\n${music()}\n`;
const tuneOf = (text: string) => (readAbc(text).tunes[0] as { tune: Parameters<typeof newWork>[0] }).tune;

class Application {
  private child: ChildProcess | undefined;
  constructor(readonly db: string) {}
  async start(): Promise<void> {
    const args = ["node_modules/next/dist/bin/next", "start", "--hostname", "127.0.0.1", "--port", String(PORT)];
    const env = { ...process.env, SYMPHONOS_DB: this.db };
    this.child = spawn(process.execPath, args, { env, stdio: "ignore" });
    for (let i = 0; i < 200; i++) {
      if (
        await fetch(`${ADDRESS}/icon.svg`).then(
          (r) => r.ok,
          () => false,
        )
      )
        return;
      await pause(50);
    }
    throw new Error("The application did not start.");
  }
  async kill(): Promise<void> {
    const { child } = this;
    if (!child) return;
    const gone = new Promise((done) => child.once("exit", done));
    child.kill("SIGKILL");
    await gone;
  }
}

type Reply = { ok: boolean; value?: { kind: string; head: number; loaded?: { head: number } }; problem?: string };
const ask = async (id: number, name: string, sent: object): Promise<Reply | undefined> => {
  try {
    const response = await fetch(`${ADDRESS}/tune/${id}/work`, {
      method: "POST",
      headers: { "Content-Type": "application/json", Origin: ADDRESS },
      body: JSON.stringify({ ask: name, with: sent }),
    });
    return (await response.json()) as Reply;
  } catch {
    return undefined;
  }
};

/** Everything the application has acknowledged: states by their token, and tunes by their title. */
const acknowledged = { states: new Set<string>(), tunes: new Set<string>() };

/** One client that edits a tune, goes back and forward, until the application is gone. */
async function edit(id: number, work: ReturnType<typeof newWork>): Promise<void> {
  const found = await ask(id, "since", { head: 0 });
  let head = found?.value?.loaded?.head ?? 0;
  for (let i = 0; ; i++) {
    const token = crypto.randomUUID();
    const styles = ["Three-chord", "Two-chord", "Dance band", "Modal"];
    const made = await ask(id, "save", { head, token, step: `Step ${i}`, work: { ...work, style: styles[pick(4)] } });
    if (!made) return;
    if (made.value?.kind !== "kept") throw new Error(`A save was not kept: ${JSON.stringify(made).slice(0, 200)}`);
    acknowledged.states.add(token);
    head = made.value.head;
    if (pick(4) > 0) continue;
    const back = await ask(id, "travel", { head, way: "undo" });
    if (!back) return;
    head = back.value?.loaded?.head ?? head;
  }
}

/** Brings tunes in beside the pages, in a process of its own, as the command line of another window would. */
function importing(db: string, from: number): ChildProcess {
  const script = `
    const { openDatabase } = await import("./src/db/open.ts");
    const { takeIn } = await import("./src/server/collection.ts");
    const db = openDatabase(process.env.SYMPHONOS_DB);
    const texts = JSON.parse(process.env.TEXTS);
    for (const text of texts) { takeIn(db, text, true); process.stdout.write(text.slice(6, text.indexOf("\\n", 6)) + "\\n"); }`;
  const texts = Array.from({ length: 40 }, (_, i) => abc(`Tune ${from + i}`));
  const env = { ...process.env, SYMPHONOS_DB: db, TEXTS: JSON.stringify(texts) };
  const child = spawn(process.execPath, ["--import", "tsx", "--input-type=module", "-e", script], {
    env,
    stdio: "pipe",
  });
  child.stdout?.on("data", (said: Buffer) => {
    for (const line of said.toString().split("\n")) if (line) acknowledged.tunes.add(line.replace(/^T:/, ""));
  });
  return child;
}

const fresh = (name: string) => join(mkdtempSync(join(tmpdir(), `${name}-`)), "tunes.db");
const seed = (db: string) =>
  execFileSync("npx", ["--no-install", "tsx", "scripts/seed.ts"], { env: { ...process.env, SYMPHONOS_DB: db } });

async function kills(): Promise<string> {
  const db = fresh("kills");
  seed(db);
  const application = new Application(db);
  const works = Array.from({ length: 3 }, () => newWork(tuneOf(abc("Any"))));
  for (let round = 0; round < ROUNDS; round++) {
    await application.start();
    const clients = works.map((work, i) => edit(i + 1, work));
    // In turn: a book comes in, a backup is made, or the clients are alone.
    const beside =
      round % 10 === 0
        ? importing(db, round * 40)
        : round % 5 === 0 &&
          spawn("node", ["bin/symphonos", "backup", "make"], {
            env: { ...process.env, SYMPHONOS_DB: db },
            stdio: "ignore",
          });
    // The kill comes once everything is under way.
    const goal = { states: acknowledged.states.size + 2, tunes: acknowledged.tunes.size + (round % 10 === 0 ? 2 : 0) };
    for (let i = 0; i < 200; i++) {
      if (acknowledged.states.size >= goal.states && acknowledged.tunes.size >= goal.tunes) break;
      await pause(50);
    }
    await pause(pick(300));
    await application.kill();
    if (beside) beside.kill("SIGKILL");
    await Promise.all(clients);
  }
  const client = new Database(db, { readonly: true });
  const tokens = new Set(client.prepare("SELECT token FROM revisions WHERE token IS NOT NULL").pluck().all());
  const titles = new Set(client.prepare("SELECT title FROM tunes").pluck().all());
  const lostStates = [...acknowledged.states].filter((token) => !tokens.has(token)).length;
  const lostTunes = [...acknowledged.tunes].filter((title) => !titles.has(title)).length;
  const whole = client.pragma("integrity_check", { simple: true });
  const heads = client.prepare("SELECT count(*) FROM tunes WHERE head NOT IN (SELECT id FROM revisions)").pluck().get();
  client.close();
  const backups = backupsOf(db).map((b) => checkBackup(backupPath(db, b.name) ?? ""));
  const wrong = backups.filter((b) => "wrong" in b).length;
  return (
    `${ROUNDS} kills: ${acknowledged.states.size} saves and ${acknowledged.tunes.size} imports acknowledged, ` +
    `${lostStates} and ${lostTunes} lost; integrity ${whole}; ${heads} heads without a state; ` +
    `${backups.length} backups, ${wrong} not whole`
  );
}

/** How long other pages take while a book is read, in milliseconds. */
async function pagesBeside(): Promise<string> {
  const db = fresh("beside");
  seed(db);
  const application = new Application(db);
  await application.start();
  const page = async () => {
    const from = performance.now();
    await fetch(`${ADDRESS}/?find=gull`).then((r) => r.text());
    return performance.now() - from;
  };
  for (let i = 0; i < 5; i++) await page();
  // Every kind of page has been asked for once, so that none is loaded while this is timed.
  const pages = (id: number) => [`/tune/${id}/print/melody`, `/tune/${id}/chart`, `/tune/${id}`];
  for (const path of pages(2)) await fetch(ADDRESS + path).then((r) => r.text());
  const giant = newWork(tuneOf(`X:1\nT:Giant\nM:4/4\nL:1/8\nK:D\n${"d2fd Adfd|e2ge Bege|".repeat(700)}\n`));
  const client = new Database(db);
  client.prepare("UPDATE revisions SET work = ? WHERE id = 1").run(JSON.stringify(giant));
  client.close();
  const asked = pages(1).map((path) => fetch(ADDRESS + path).then((r) => r.text()));
  const times: number[] = [];
  let done = false;
  void Promise.all(asked).then(() => {
    done = true;
  });
  while (!done && times.length < 400) {
    times.push(await page());
    await pause(20);
  }
  await application.kill();
  times.sort((a, b) => a - b);
  const at = (share: number) => Math.round(times[Math.floor((times.length - 1) * share)] ?? 0);
  return (
    `while a tune of 1,400 bars is printed, charted and opened: list in ${at(0.5)} ms at the median, ` +
    `${at(0.95)} at the 95th percentile, ${at(1)} at most (${times.length} times)`
  );
}

/** Saves on a disk that is full, and again once there is room: a small file system in memory. */
async function fullDisk(): Promise<string> {
  const disk = mkdtempSync(join(tmpdir(), "disk-"));
  try {
    execFileSync("mount", ["-t", "tmpfs", "-o", "size=3m", "tmpfs", disk], { stdio: "ignore" });
  } catch {
    return "full disk: not tried, since no small file system can be mounted here";
  }
  const db = join(disk, "tunes.db");
  mkdirSync(disk, { recursive: true });
  seed(db);
  const application = new Application(db);
  await application.start();
  const work = newWork(tuneOf(abc("Any")));
  let head = (await ask(1, "since", { head: 0 }))?.value?.loaded?.head ?? 0;
  const { bavail, bsize } = statfsSync(disk);
  writeFileSync(join(disk, "ballast"), Buffer.alloc(Math.max(0, bavail * bsize - 20_000)));
  let kept = 0;
  let said = "";
  const token = () => crypto.randomUUID();
  for (let i = 0; i < 40 && !said; i++) {
    const made = await ask(1, "save", {
      head,
      token: token(),
      step: "x",
      work: { ...work, style: i % 2 ? "Modal" : "Colour" },
    });
    if (made?.value?.kind === "kept") [kept, head] = [kept + 1, made.value.head];
    else said = made?.problem ?? "no answer";
  }
  rmSync(join(disk, "ballast"));
  const after = await ask(1, "save", { head, token: token(), step: "x", work });
  await application.kill();
  const whole = new Database(db, { readonly: true }).pragma("integrity_check", { simple: true });
  execFileSync("umount", ["-l", disk]);
  return `full disk: ${kept} saves kept, then “${said.slice(0, 120)}”; with room again ${after?.value?.kind}; integrity ${whole}`;
}

if (ROUNDS > 0) console.log(await kills());
console.log(await pagesBeside());
console.log(await fullDisk());
