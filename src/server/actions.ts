"use server";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import type { Work } from "../core/ensemble";
import { Rights, Tune } from "../core/score";
import { database, keepAnswer, setAside, type Tally, tagTunes, tallyOf } from "../db";
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

const Ids = z.array(z.int().min(1)).max(20_000);
const Cuttings = z
  .array(z.object({ text: z.string().max(500_000), line: z.int(), header: z.string().max(20_000) }))
  .max(500);

/** Brings tunes cut from an ABC book into the collection. */
export async function bringIn(cuttings: unknown, again = false): Promise<Taken> {
  const taken = takeCuttings(database(), Cuttings.parse(cuttings), again === true);
  revalidatePath("/");
  return taken;
}

/** Brings finished tunes in: typed ones, and those read from scores and MIDI files. */
export async function addTune(tune: unknown, step: string, again = false): Promise<Taken> {
  const taken = addTunes(database(), [{ tune: Tune.parse(tune) }], {
    again: again === true,
    step: String(step).slice(0, 100),
  });
  revalidatePath("/");
  return taken;
}

/** Saves the work on a tune as one step, the page already showing it. False when the tune is gone. */
export async function saveStep(id: number, step: string, work: Work): Promise<boolean> {
  return save(database(), Number(id), String(step), work) !== undefined;
}

/** Goes a step back or forward. */
export async function travelStep(id: number, way: "undo" | "redo"): Promise<Loaded | null> {
  return travel(database(), Number(id), way === "redo" ? "redo" : "undo") ?? null;
}

/** The states a tune has been in. */
export async function listVersions(id: number): Promise<Version[]> {
  return versions(database(), Number(id));
}

/** Names a state. */
export async function giveName(id: number, revision: number, name: string): Promise<Version[]> {
  nameVersion(database(), Number(id), Number(revision), String(name));
  return versions(database(), Number(id));
}

/** Brings an earlier state back on top. */
export async function restoreVersion(id: number, revision: number): Promise<Loaded | null> {
  return bringBack(database(), Number(id), Number(revision)) ?? null;
}

/** Tags tunes, or takes a tag off. */
export async function tag(ids: unknown, name: string, on: boolean): Promise<void> {
  const word = String(name).replace(/\s+/g, " ").trim().slice(0, 40);
  if (word) tagTunes(database(), Ids.parse(ids), word, on === true);
  revalidatePath("/");
}

/** Puts tunes aside, or brings them back. */
export async function putAside(ids: unknown, aside: boolean): Promise<void> {
  setAside(database(), Ids.parse(ids), aside === true);
  revalidatePath("/");
}

/** Records rights and source of several tunes. */
export async function recordRightsOf(ids: unknown, rights: unknown, source: string): Promise<void> {
  recordRights(database(), Ids.parse(ids), Rights.parse(rights), String(source).trim() || undefined);
  revalidatePath("/");
}

const Answer = z.object({ bar: z.int().min(0), at: z.int().min(0), right: z.boolean() });

/** Keeps an answer to “third or fourth?” and gives the tune's tally; without one only the tally. */
export async function answerThirdOrFourth(id: number, answer?: unknown): Promise<Tally> {
  if (answer !== undefined) keepAnswer(database(), Number(id), Answer.parse(answer));
  return tallyOf(database(), Number(id));
}
