import type { Analysis } from "../../analysis";
import { type PartNote, type RoleGroup, ROLE_RULES } from "../../grading";
import { LEVELS } from "../../instruments";
import { beatTicks, isCompound, type Place } from "../../score";
import { type Bowing, planBowing, planPlectrum, type StrokePlan } from "../../strokes";
import type { GroupPart } from "./model";
import { barsOf } from "./staff";

// Bows and picks of parts, by the planners of the tune's own.

type Ground = { analysis: Analysis; tick: number };

const FLUENT = LEVELS.indexOf("Fluent");

/** Roles whose notes are a melody: what stands or marks the beat has a bow to each note. */
const SUNG = new Set<RoleGroup>(["tune", "harmony"]);

/** How someone bows: a bow to each note until slurs are known, then every downbeat down; jigs in their pulse. */
function bowingFor({ limits, learner, role }: GroupPart, place: Place): Bowing {
  if (limits.slur < 2 || !SUNG.has(ROLE_RULES[role].group)) return "Separate";
  const jig = isCompound(place.metre) && LEVELS.indexOf(learner.level) >= FLUENT;
  return jig ? "Jig pulse" : "Down on the beat";
}

/** The strokes of a part: bows, picks, or none where no hand strikes. */
function plannedFor(part: GroupPart, places: readonly Place[], { analysis, tick }: Ground): StrokePlan | undefined {
  const { on, limits } = part;
  const [first] = places;
  if (!first || ROLE_RULES[part.role].kind === "chords") return undefined;
  if (on.family === "plucked") return planPlectrum({ places, style: "Pulse", instrument: on });
  if (on.family !== "bowed") return undefined;
  const request = {
    places,
    instrument: on,
    bpm: 60 / (tick * beatTicks(first.metre)),
    phraseStarts: new Set(analysis.form.phrases.map((p) => p.from)),
    most: limits.slur,
  };
  const plan = planBowing({ ...request, style: bowingFor(part, first) });
  const seconds = (s: StrokePlan["strokes"][number]) => s.notes.reduce((sum, n) => sum + n.ticks, 0) * tick;
  const long = plan.strokes.some((s) => s.notes.length > 1 && limits.bow !== null && seconds(s) > limits.bow);
  return long ? planBowing({ ...request, style: "Separate" }) : plan;
}

/** A part with the direction of each of its strokes, and its slurs. */
function withStrokes(part: GroupPart, ground: Ground): GroupPart {
  const { analysis } = ground;
  const bars = barsOf(analysis.places, part.notes, part.on, { key: analysis.key.key });
  const places = analysis.places.map((p, i): Place => ({ ...p, bar: { ...p.bar, events: bars[i] ?? [] } }));
  const plan = plannedFor(part, places, ground);
  if (!plan) return part;
  const struck = new Map<string, Pick<PartNote, "stroke" | "slur">>();
  plan.strokes.forEach(({ notes, direction }, order) => {
    for (const n of notes)
      struck.set(`${n.place.index}.${n.at - n.place.at}`, {
        ...(direction ? { stroke: direction } : {}),
        ...(notes.length > 1 ? { slur: order + 1 } : {}),
      });
  });
  return { ...part, notes: part.notes.map((n) => ({ ...n, ...struck.get(`${n.bar}.${n.at}`) })) };
}

/** Parts with their strokes; those that are the same note by note on one instrument are planned once. */
export function inStrokes(parts: readonly GroupPart[], ground: Ground): GroupPart[] {
  const known = new Map<string, PartNote[]>();
  return parts.map((part) => {
    const name = JSON.stringify([part.on.name, part.limits.slur, part.limits.bow, part.learner.level, part.notes]);
    const notes = known.get(name) ?? withStrokes(part, ground).notes;
    known.set(name, notes);
    return { ...part, notes };
  });
}
