"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import { readWork } from "../core/ensemble";
import { Rights, Tune } from "../core/score";
import { database, keepAnswer, setAside, type Tally, tagTunes, tallyOf } from "../db";
import { type Answer, answer } from "./answer";
import {
  addTunes,
  bringBack,
  type Loaded,
  nameVersion,
  recordRights,
  save,
  type Taken,
  takeCuttings,
  travel,
  type Version,
  versions,
} from "./collection";

const Id = z.int().min(1);
const Ids = z.array(Id).max(20_000);
const Step = z.string().max(200);
const Cuttings = z
  .array(z.object({ text: z.string().max(500_000), line: z.int(), header: z.string().max(20_000) }))
  .max(500);

/** Brings tunes cut from an ABC book into the collection. */
export async function bringIn(input: unknown): Promise<Answer<Taken>> {
  const Input = z.object({ cuttings: Cuttings, again: z.boolean().default(false) });
  return answer(Input, input, ({ cuttings, again }) => {
    const taken = takeCuttings(database(), cuttings, again);
    revalidatePath("/");
    return taken;
  });
}

/** Brings a finished tune in: typed, or read from a score or a MIDI file. */
export async function addTune(input: unknown): Promise<Answer<Taken>> {
  const Input = z.object({ tune: Tune, step: Step, again: z.boolean().default(false) });
  return answer(Input, input, ({ tune, step, again }) => {
    const taken = addTunes(database(), [{ tune }], { again, step });
    revalidatePath("/");
    return taken;
  });
}

/**
 * Saves the work on a tune as one step, the page already showing it. Gives the new head; null when the tune is gone.
 */
export async function saveStep(input: unknown): Promise<Answer<number | null>> {
  const Input = z.object({ id: Id, step: Step, work: z.unknown().transform(readWork) });
  return answer(Input, input, ({ id, step, work }) => save(database(), id, step, work) ?? null);
}

/** Goes a step back or forward; null when the tune is gone. */
export async function travelStep(input: unknown): Promise<Answer<Loaded | null>> {
  const Input = z.object({ id: Id, way: z.enum(["undo", "redo"]) });
  return answer(Input, input, ({ id, way }) => travel(database(), id, way) ?? null);
}

/** The states a tune has been in. */
export async function listVersions(input: unknown): Promise<Answer<Version[]>> {
  return answer(Id, input, (id) => versions(database(), id));
}

/** Names a state. */
export async function giveName(input: unknown): Promise<Answer<Version[]>> {
  const Input = z.object({ id: Id, revision: Id, name: z.string().max(200) });
  return answer(Input, input, ({ id, revision, name }) => {
    nameVersion(database(), id, revision, name);
    return versions(database(), id);
  });
}

/** Brings an earlier state back on top; null when there is none. */
export async function restoreVersion(input: unknown): Promise<Answer<Loaded | null>> {
  const Input = z.object({ id: Id, revision: Id });
  return answer(Input, input, ({ id, revision }) => bringBack(database(), id, revision) ?? null);
}

/** Tags tunes, or takes a tag off. */
export async function tag(input: unknown): Promise<Answer<null>> {
  const Word = z.string().transform((word) => word.replace(/\s+/g, " ").trim().slice(0, 40));
  const Input = z.object({
    ids: Ids,
    name: Word.pipe(z.string().min(1, "Write a word to file the tunes under")),
    on: z.boolean(),
  });
  return answer(Input, input, ({ ids, name, on }) => {
    tagTunes(database(), ids, name, on);
    revalidatePath("/");
    return null;
  });
}

/** Puts tunes aside, or brings them back. */
export async function putAside(input: unknown): Promise<Answer<null>> {
  return answer(z.object({ ids: Ids, aside: z.boolean() }), input, ({ ids, aside }) => {
    setAside(database(), ids, aside);
    revalidatePath("/");
    return null;
  });
}

/** Records rights and source of several tunes, all of them or none. */
export async function recordRightsOf(input: unknown): Promise<Answer<null>> {
  const Input = z.object({ ids: Ids, rights: Rights, source: z.string().trim().max(2000) });
  return answer(Input, input, ({ ids, rights, source }) => {
    recordRights(database(), ids, rights, source || undefined);
    revalidatePath("/");
    return null;
  });
}

/** Keeps an answer to “third or fourth?” and gives the tune's tally; without one only the tally. */
export async function answerThirdOrFourth(input: unknown): Promise<Answer<Tally>> {
  const Given = z.object({ bar: z.int().min(0), at: z.int().min(0), right: z.boolean() });
  return answer(z.object({ id: Id, given: Given.optional() }), input, ({ id, given }) => {
    if (given) keepAnswer(database(), id, given);
    return tallyOf(database(), id);
  });
}
