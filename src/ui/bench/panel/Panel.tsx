"use client";
import { Box } from "@chakra-ui/react";
import { ChevronDown, ChevronUp } from "../../icons";
import type { Lens } from "../layout";
import { chosenChord, chosenNote, useBench } from "../state";
import { useLens } from "../useLens";
import { ChordPanel } from "./ChordPanel";
import { ChordsPanel } from "./ChordsPanel";
import { FeelPanel } from "./feel/FeelPanel";
import { StrokePanel } from "./feel/StrokePanel";
import { HarmonyPanel } from "./HarmonyPanel";
import { NotePanel } from "./NotePanel";
import css from "./panel.module.css";
import { PartsPanel } from "./PartsPanel";
import { PulsePanel } from "./pulse/PulsePanel";
import { ThirdOrFourthPanel } from "./ThirdOrFourthPanel";
import { TunePanel } from "./TunePanel";

/** What the handle of the sheet says is in it. */
const HANDLES: Record<Lens, string> = {
  Tune: "About this tune",
  Chords: "Choose and compare chords",
  Harmony: "Choose and compare harmony",
  Pulse: "Rhythms to pull out, and tapping along",
  Feel: "How it moves, and its strokes",
  Parts: "Parts for tonight",
};

/**
 * The side panel: why this is so, or, with nothing chosen, what is worth looking at. On tablets it is a sheet under the
 * rows, opened by a handle that is always there; it takes its room from the rows and never lies over them.
 */
export function Panel() {
  const folded = useBench((s) => s.folded);
  return (
    <Box as="aside" aria-label="Why" className={css.panel} data-folded={folded ? "" : undefined}>
      <Handle />
      <div className={css.inside} id="panel">
        <Inside />
      </div>
    </Box>
  );
}

function Handle() {
  const { lens } = useLens();
  const folded = useBench((s) => s.folded);
  const setFolded = useBench((s) => s.setFolded);
  const chosen = useBench((s) => s.selection !== null);
  return (
    <button
      type="button"
      className={css.handle}
      aria-expanded={!folded}
      aria-controls="panel"
      onClick={() => setFolded(!folded)}
    >
      {folded ? <ChevronUp size={18} /> : <ChevronDown size={18} />}
      {chosen ? "Why this one, and what else" : HANDLES[lens]}
    </button>
  );
}

function Inside() {
  const { lens } = useLens();
  const chord = useBench((s) => chosenChord(s).chord);
  const note = useBench((s) => chosenNote(s)?.note);
  const trying = useBench((s) => s.trying);
  const stroke = useBench((s) => (s.selection?.kind === "stroke" ? s.selection.index : undefined));
  if (lens === "Tune") return <TunePanel />;
  if (lens === "Pulse") return <PulsePanel />;
  if (lens === "Feel") return stroke === undefined ? <FeelPanel /> : <StrokePanel index={stroke} />;
  if (chord) return <ChordPanel chord={chord} />;
  if (note) return <NotePanel note={note} />;
  if (lens === "Harmony") return trying ? <ThirdOrFourthPanel /> : <HarmonyPanel />;
  return lens === "Parts" ? <PartsPanel /> : <ChordsPanel />;
}
