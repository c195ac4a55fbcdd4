import { z } from "zod";
import { readWork } from "../core/ensemble";
import { type Db, database, writing } from "../db";
import { type Answer, answer } from "./answer";
import { bringBack, keepAnew, load, save, settle, since, stateOf, travel } from "./states";

export const Id = z.int().min(1);
const Step = z.string().max(200);
const Token = z.uuid();
const Work = z.unknown().transform(readWork);

/** One thing a bench can ask of the work on a tune: what it sends, and what it gets. */
const ask = <S extends z.ZodType, T>(schema: S, run: (db: Db, id: number, input: z.infer<S>) => T, open = writing) => ({
  schema,
  run: (id: number, input: z.infer<S>): T => run(open(), id, input),
});

/** Everything a bench asks of the work on a tune. Every change carries the head it was made from. */
const ASKS = {
  tune: ask(z.object({}), (db, id) => load(db, id)?.work.tune ?? null, database),
  since: ask(z.object({ head: z.int().min(0) }), (db, id, { head }) => since(db, id, head), database),
  state: ask(z.object({ revision: Id }), (db, id, { revision }) => stateOf(db, id, revision) ?? null, database),
  save: ask(z.object({ head: Id, step: Step, work: Work, token: Token }), (db, id, step) => save(db, { id, ...step })),
  travel: ask(z.object({ head: Id, way: z.enum(["undo", "redo"]) }), (db, id, asked) => travel(db, { id, ...asked })),
  restore: ask(z.object({ head: Id, revision: Id }), (db, id, asked) => bringBack(db, { id, ...asked })),
  settle: ask(
    z.object({
      head: Id,
      token: Token,
      take: z.enum(["mine", "theirs", "both"]),
      step: Step,
      mine: Work,
      both: Work.optional(),
    }),
    (db, id, asked) => settle(db, { id, ...asked }),
  ),
  anew: ask(z.object({ step: Step, work: Work }), (db, _, { step, work }) => keepAnew(db, step, work)),
};
export type Asks = typeof ASKS;
export type AskName = keyof Asks;
/** What goes out with an ask, and what comes back. */
export type Sent<Name extends AskName> = z.input<Asks[Name]["schema"]>;
export type Given<Name extends AskName> = ReturnType<Asks[Name]["run"]>;

/** Answers what a bench asks of a tune; what is no ask is answered in words. */
export async function answerAsk(id: unknown, body: unknown): Promise<Answer<unknown>> {
  const names = Object.keys(ASKS) as [AskName, ...AskName[]];
  const Envelope = z.object({ id: Id, ask: z.enum(names), with: z.unknown() });
  const envelope = { id, ...(typeof body === "object" ? body : {}) };
  return answer(Envelope, envelope, ({ id: tune, ask: name, with: sent }) => {
    const { schema, run } = ASKS[name];
    return run(tune, schema.parse(sent) as never);
  });
}
