import fc from "fast-check";
import { describe, expect, it, test } from "vitest";
import { type Caller, policy, turnedAway } from "./gate";

const page: Caller = { method: "GET", host: "127.0.0.1:3000", origin: null, site: null, path: "/tune/1" };
const save: Caller = { ...page, method: "POST", origin: "http://127.0.0.1:3000", site: "same-origin" };

describe("the gate", () => {
  test.each(["127.0.0.1:3000", "localhost:3000", "LOCALHOST:3000", "[::1]:3000"])("answers at %s", (host) => {
    expect(turnedAway({ ...page, host }, "3000")).toBeUndefined();
    expect(turnedAway({ ...save, host, origin: `http://${host.toLowerCase()}` }, "3000")).toBeUndefined();
  });
  test.each([
    "tunes.example:3000",
    "127.0.0.1:3001",
    "127.0.0.1",
    "127.0.0.1.example:3000",
    "localhost.:3000",
    "127.0.0.1:3000@tunes.example",
    "",
    null,
  ])("does not answer at %j", (host) => {
    expect(turnedAway({ ...page, host }, "3000")?.status).toBe(421);
    expect(turnedAway({ ...save, host }, "3000")?.status).toBe(421);
  });
  it("answers at the plain name where the port is the usual one", () => {
    expect(turnedAway({ ...page, host: "localhost" }, "80")).toBeUndefined();
  });
  test.each([
    { origin: null },
    { origin: "null" },
    { origin: "http://tunes.example" },
    { origin: "http://localhost:3000" },
    { origin: "https://127.0.0.1:3000" },
    { site: "cross-site" },
    { site: "same-site" },
    { site: "none" },
  ])("takes no change from %j", (from) => {
    for (const method of ["POST", "PUT", "PATCH", "DELETE", "OPTIONS"])
      expect(turnedAway({ ...save, ...from, method }, "3000")?.status).toBe(403);
  });
  it("tells an address that cannot be read from one that can", () => {
    expect(turnedAway({ ...page, path: "/tune/%ff" }, "3000")?.status).toBe(400);
    expect(turnedAway({ ...page, path: "/tune/%C3%BC" }, "3000")).toBeUndefined();
  });
  it("opens to no other host, whatever it is called", () => {
    fc.assert(
      fc.property(fc.string(), (host) => {
        const known = /^(127\.0\.0\.1|localhost|\[::1\]):3000$/i.test(host);
        expect(turnedAway({ ...page, host }, "3000") === undefined).toBe(known);
      }),
    );
  });
  it("lets scripts in by the nonce alone", () => {
    const rules = policy("abc", false);
    expect(rules).toContain("script-src 'self' 'nonce-abc' 'wasm-unsafe-eval';");
    expect(rules).not.toMatch(/script-src[^;]*'unsafe-(inline|eval)'/);
  });
});
