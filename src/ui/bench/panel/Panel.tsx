"use client";
import { Box, Button } from "@chakra-ui/react";
import type { Derived } from "../../../core/ensemble";
import type { Pitch } from "../../../core/theory";
import type { Lens, Selection } from "../lenses";
import type { NoteEdit } from "../noteEdits";
import type { BenchState } from "../useBench";
import type { ChordEdits } from "../useChordEdits";
import type { NamingState } from "../useNaming";
import type { RivalState } from "../useRival";
import type { SecondState } from "../useSecond";
import type { Loop, PlayerState } from "../usePlayer";
import { ChordPanel } from "./ChordPanel";
import { ChordsPanel } from "./ChordsPanel";
import { ThirdOrFourthPanel } from "./ThirdOrFourthPanel";
import { HarmonyPanel } from "./HarmonyPanel";
import { NotePanel } from "./NotePanel";
import { PartsPanel } from "./PartsPanel";
import { type PageName, TunePanel } from "./TunePanel";

type Props = {
  bench: BenchState;
  derived: Derived;
  lens: Lens;
  selection: Selection;
  onSelect: (next: Selection) => void;
  edits: ChordEdits;
  rival: RivalState;
  second: SecondState;
  loop: Loop;
  onNote: (pitch: Pitch | null) => void;
  onNoteLock: () => void;
  onBar: (bar: number) => void;
  player: PlayerState;
  bar: number;
  shown: string;
  onShow: (part: string) => void;
  folded: boolean;
  onFold: (folded: boolean) => void;
  naming: NamingState;
  page: PageName;
  onPage: (page: PageName) => void;
  onEdit: (edit: NoteEdit) => void;
  refused: string | undefined;
  onRefused: (why: string | undefined) => void;
};

/**
 * The side panel: why this is so, or, with nothing chosen, what is worth looking at. Under 1100 pixels it folds away.
 */
export function Panel(props: Props) {
  const { folded, onFold, selection } = props;
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
        "@media (max-width: 1100px)": {
          position: "absolute",
          right: 0,
          top: 0,
          bottom: 0,
          zIndex: 5,
          boxShadow: "lg",
          display: folded || (!selection && props.lens !== "Parts" && props.lens !== "Tune") ? "none" : "block",
        },
      }}
    >
      <Inside {...props} />
      <Button
        variant="outline"
        size="sm"
        mt="16px"
        borderColor="cord"
        color="ink"
        css={{ display: "none", "@media (max-width: 1100px)": { display: "inline-flex" } }}
        onClick={() => {
          onFold(true);
          props.onSelect(null);
        }}
      >
        Fold away
      </Button>
    </Box>
  );
}

function Inside({
  bench,
  derived,
  lens,
  selection,
  onSelect,
  edits,
  rival,
  second,
  loop,
  onNote,
  onNoteLock,
  onBar,
  player,
  bar,
  shown,
  onShow,
  ...tune
}: Props) {
  const hear = () => player.play(bar, bar, false, false);
  if (lens === "Tune") return <TunePanel bench={bench} derived={derived} selection={selection} bar={bar} {...tune} />;
  const chord = selection?.kind === "chord" ? derived.plan.chords[selection.index] : undefined;
  const note = selection?.kind === "note" ? derived.line.notes[selection.index] : undefined;
  if (chord) return <ChordPanel chord={chord} derived={derived} edits={edits} names={rival.names} onHear={hear} />;
  if (note)
    return (
      <NotePanel
        note={note}
        derived={derived}
        side={bench.work.side}
        onTake={onNote}
        onLock={onNoteLock}
        onHear={hear}
      />
    );
  if (lens === "Harmony" && second.trying)
    return (
      <ThirdOrFourthPanel
        id={bench.id}
        work={bench.work}
        derived={derived}
        player={player}
        onBar={onBar}
        onDone={() => second.setTrying(false)}
      />
    );
  if (lens === "Harmony")
    return (
      <HarmonyPanel
        bench={bench}
        derived={derived}
        second={second}
        practising={player.muted.has("moving")}
        onPractise={() => player.mute("moving")}
        bar={bar}
        loop={loop}
        onSelect={onSelect}
      />
    );
  if (lens === "Parts") return <PartsPanel bench={bench} derived={derived} shown={shown} onShow={onShow} />;
  return <ChordsPanel bench={bench} derived={derived} rival={rival} onSelect={onSelect} />;
}
