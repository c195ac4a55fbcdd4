import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { record } from "./record";

const Note = record({ step: z.string().min(1), tie: z.boolean().optional() });

describe("a stored object", () => {
  it("keeps every key it does not know, and checks those it does", () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string({ minLength: 5 }), fc.jsonValue()), (more) => {
        // The one key that no object of ours may bring in.
        const { ["__proto__"]: _, ...rest } = more;
        const note = { ...rest, step: "D" };
        expect(Note.parse(note)).toEqual(note);
      }),
    );
    expect(Note.safeParse({ step: "", later: 1 }).success).toBe(false);
    expect(Note.safeParse({ step: "D", tie: "yes" }).success).toBe(false);
  });
});
