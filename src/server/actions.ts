"use server";
import { revalidatePath } from "next/cache";
import type { Work } from "../core/ensemble";
import { database } from "../db";
import { type Intake, type Loaded, save, takeIn, travel } from "./collection";

/** Brings ABC text into the collection. */
export async function bringIn(text: string): Promise<Intake> {
  const intake = takeIn(database(), String(text));
  revalidatePath("/");
  return intake;
}

/** Saves the work on a tune as one step, the page already showing it. False when the tune is gone. */
export async function saveStep(id: number, step: string, work: Work): Promise<boolean> {
  return save(database(), Number(id), String(step), work) !== undefined;
}

/** Goes a step back or forward. */
export async function travelStep(id: number, way: "undo" | "redo"): Promise<Loaded | null> {
  return travel(database(), Number(id), way === "redo" ? "redo" : "undo") ?? null;
}
