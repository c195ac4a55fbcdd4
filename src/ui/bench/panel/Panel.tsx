"use client";
import { Box } from "@chakra-ui/react";
import { LineButton } from "../../controls/buttons";
import { chosenChord, chosenNote, useBench } from "../state";
import { useLens } from "../useLens";
import { ChordPanel } from "./ChordPanel";
import { ChordsPanel } from "./ChordsPanel";
import { HarmonyPanel } from "./HarmonyPanel";
import { NotePanel } from "./NotePanel";
import { PartsPanel } from "./PartsPanel";
import { ThirdOrFourthPanel } from "./ThirdOrFourthPanel";
import { TunePanel } from "./TunePanel";

const NARROW = "@media (max-width: 1100px)";

/**
 * The side panel: why this is so, or, with nothing chosen, what is worth looking at. Under 1100 pixels it folds away.
 */
export function Panel() {
  const { lens } = useLens();
  const away = useBench((s) => s.folded || (!s.selection && lens !== "Parts" && lens !== "Tune"));
  const setFolded = useBench((s) => s.setFolded);
  const select = useBench((s) => s.select);
  return (
    <Box
      as="aside"
      aria-label="Why"
      w="316px"
      maxW="100%"
      flexShrink={0}
      overflowY="auto"
      borderLeft="1px solid"
      borderColor="cord"
      bg="fleece"
      px="20px"
      py="18px"
      css={{
        [NARROW]: {
          position: "absolute",
          right: 0,
          top: 0,
          bottom: 0,
          zIndex: 5,
          boxShadow: "lg",
          display: away ? "none" : "block",
        },
      }}
    >
      <Inside />
      <LineButton
        mt="16px"
        css={{ display: "none", [NARROW]: { display: "inline-flex" } }}
        onClick={() => {
          select(null);
          setFolded(true);
        }}
      >
        Fold away
      </LineButton>
    </Box>
  );
}

function Inside() {
  const { lens } = useLens();
  const chord = useBench((s) => chosenChord(s).chord);
  const note = useBench((s) => chosenNote(s)?.note);
  const trying = useBench((s) => s.trying);
  if (lens === "Tune") return <TunePanel />;
  if (chord) return <ChordPanel chord={chord} />;
  if (note) return <NotePanel note={note} />;
  if (lens === "Harmony") return trying ? <ThirdOrFourthPanel /> : <HarmonyPanel />;
  return lens === "Parts" ? <PartsPanel /> : <ChordsPanel />;
}
