import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { get } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** An application of its own, with its own tunes, that a test may stop, break and start again. */
export class OwnServer {
  readonly db = join(mkdtempSync(join(tmpdir(), "own-")), "tunes.db");
  private child: ChildProcess | undefined;
  constructor(readonly port: number) {}

  get address(): string {
    return `http://127.0.0.1:${this.port}`;
  }
  private get env() {
    return { ...process.env, SYMPHONOS_DB: this.db };
  }

  seed(): void {
    spawnSync("npx", ["--no-install", "tsx", "scripts/seed.ts"], { env: this.env });
  }

  async start(): Promise<void> {
    const args = ["node_modules/next/dist/bin/next", "start", "--hostname", "127.0.0.1", "--port", String(this.port)];
    this.child = spawn(process.execPath, args, { env: this.env, stdio: "ignore" });
    for (let i = 0; i < 120; i++) {
      if (await answers(`${this.address}/icon.svg`)) return;
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error("The application did not start.");
  }

  /** Stops it at once, whatever it is doing. */
  async kill(): Promise<void> {
    const { child } = this;
    this.child = undefined;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((done) => child.once("exit", done));
    child.kill("SIGKILL");
    await gone;
  }
}

const answers = (address: string) =>
  new Promise<boolean>((done) => {
    get(address, (response) => {
      response.resume();
      done(response.statusCode === 200);
    }).on("error", () => done(false));
  });
