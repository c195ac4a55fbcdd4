"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import type { Before } from "../core/ensemble";
import { Group } from "../core/grading";
import { type Instrument, OwnDraft } from "../core/instruments";
import { Rights, Tune } from "../core/score";
import { database, keepAnswer, setAside, type Tally, tagTunes, tallyOf, writing } from "../db";
import type { Backup, Checked } from "../db";
import { type Answer, answer, Refusal } from "./answer";
import { Id } from "./asks";
import { aside } from "./aside";
import type { Taken } from "./collection";
import {
  type BroughtIn,
  bringGroupIn,
  type Easier,
  easierTunes,
  groupsOf,
  removeGroup,
  rolesBefore,
  saveGroup,
} from "./groups";
import { dropOwn, type KeptInstrument, keepOwn } from "./instruments";
import { type Follower, followers } from "./joins";
import { type Left, nameVersion, type Version, versions } from "./states";

type Listed = Backup & Checked;
const Ids = z.array(Id).max(20_000);
const Step = z.string().max(200);
const Cuttings = z
  .array(z.object({ text: z.string().max(500_000), line: z.int(), header: z.string().max(20_000) }))
  .max(500);

/** Brings tunes cut from an ABC book into the collection. */
export async function bringIn(input: unknown): Promise<Answer<Taken>> {
  const Input = z.object({ cuttings: Cuttings, again: z.boolean().default(false) });
  return answer(Input, input, async ({ cuttings, again }) => {
    const taken = await aside("intake", cuttings, again);
    revalidatePath("/");
    return taken;
  });
}

/** Brings a finished tune in: typed, or read from a score or a MIDI file. */
export async function addTune(input: unknown): Promise<Answer<Taken>> {
  const Remarked = z.object({
    line: z.int(),
    column: z.int(),
    message: z.string().max(1000),
    left: z.literal(true).optional(),
  });
  const Input = z.object({
    tune: Tune,
    remarks: z.array(Remarked).max(1000).default([]),
    step: Step,
    again: z.boolean().default(false),
  });
  return answer(Input, input, async ({ tune, remarks, step, again }) => {
    const taken = await aside("add", { tune, remarks }, step, again);
    revalidatePath("/");
    return taken;
  });
}

/** The states a tune has been in. */
export async function listVersions(input: unknown): Promise<Answer<Version[]>> {
  return answer(Id, input, (id) => versions(database(), id));
}

/** Names a state. */
export async function giveName(input: unknown): Promise<Answer<Version[]>> {
  const Input = z.object({ id: Id, revision: Id, name: z.string().max(200) });
  return answer(Input, input, ({ id, revision, name }) => {
    nameVersion(writing(), id, revision, name);
    return versions(database(), id);
  });
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
    tagTunes(writing(), ids, name, on);
    revalidatePath("/");
    return null;
  });
}

/** Puts tunes aside, or brings them back. */
export async function putAside(input: unknown): Promise<Answer<null>> {
  return answer(z.object({ ids: Ids, aside: z.boolean() }), input, ({ ids, aside }) => {
    setAside(writing(), ids, aside);
    revalidatePath("/");
    return null;
  });
}

/** Records rights and source of several tunes; gives those it could not be done to. */
export async function recordRightsOf(input: unknown): Promise<Answer<Left[]>> {
  const Input = z.object({ ids: Ids, rights: Rights, source: z.string().trim().max(2000) });
  return answer(Input, input, async ({ ids, rights, source }) => {
    const left = await aside("rights", ids, rights, source || undefined);
    revalidatePath("/");
    return left;
  });
}

/** Keeps an answer to “third or fourth?” and gives the tune's tally; without one only the tally. */
export async function answerThirdOrFourth(input: unknown): Promise<Answer<Tally>> {
  const Given = z.object({ bar: z.int().min(0), at: z.int().min(0), right: z.boolean() });
  return answer(z.object({ id: Id, given: Given.optional() }), input, ({ id, given }) => {
    if (given) keepAnswer(writing(), id, given);
    return tallyOf(database(), id);
  });
}

/** Keeps an instrument of one's own as it was written. */
export async function writeInstrument(input: unknown): Promise<Answer<KeptInstrument>> {
  const Input = z.object({ draft: OwnDraft, before: z.string().max(40).nullable() });
  return answer(Input, input, ({ draft, before }) => keepOwn(writing(), draft, before));
}

/** Takes an instrument of one's own away. */
export async function takeInstrumentAway(input: unknown): Promise<Answer<Instrument[]>> {
  return answer(z.string().max(40), input, (name) => dropOwn(writing(), name));
}

/** Keeps a group of learners, in the place of the one called `before`. */
export async function writeGroup(input: unknown): Promise<Answer<Group[]>> {
  const Input = z.object({ group: Group, before: z.string().max(80).nullable() });
  return answer(Input, input, ({ group, before }) => saveGroup(writing(), group, before));
}

/** Takes a group away. */
export async function takeGroupAway(input: unknown): Promise<Answer<Group[]>> {
  return answer(z.string().max(80), input, (name) => removeGroup(writing(), name));
}

/** Brings a group in from a table of comma-separated values. */
export async function bringGroup(input: unknown): Promise<Answer<BroughtIn>> {
  const Input = z.object({ name: z.string().trim().min(1).max(60), table: z.string().max(400_000) });
  return answer(Input, input, ({ name, table }) => bringGroupIn(writing(), name, table));
}

/** What everyone in a group played in the last tunes, but for one tune. */
export async function listRolesBefore(input: unknown): Promise<Answer<Before>> {
  const Input = z.object({ group: z.string().max(80), except: Id });
  return answer(Input, input, ({ group, except }) => rolesBefore(database(), group, except));
}

/** Easier tunes for tonight, with why. */
export async function listEasier(input: unknown): Promise<Answer<Easier[]>> {
  return answer(Id, input, (id) => easierTunes(database(), id));
}

/** Tunes of the shelf that a tune can go on into. */
export async function listFollowers(input: unknown): Promise<Answer<Follower[]>> {
  return answer(Id, input, (id) => followers(database(), id));
}

/** The groups there are. */
export async function listGroups(): Promise<Answer<Group[]>> {
  return answer(z.undefined(), undefined, () => groupsOf(database()));
}

/** The backups of the collection, newest first, each with what it was found to hold. */
export async function listBackups(): Promise<Answer<Listed[]>> {
  return answer(z.undefined(), undefined, () => aside("backups"));
}

/** Makes a backup now. */
export async function backUp(): Promise<Answer<Listed[]>> {
  return answer(z.undefined(), undefined, async () => {
    await aside("backup", "on request");
    return aside("backups");
  });
}

/** Puts the collection back as it was in a backup; what is there now is kept as one. Gives how many tunes there are. */
export async function bringBackupBack(input: unknown): Promise<Answer<number>> {
  return answer(z.string().max(200), input, async (name) => {
    const done = await aside("restore", name);
    if ("wrong" in done) throw new Refusal(done.wrong);
    revalidatePath("/");
    return done.tunes;
  });
}
