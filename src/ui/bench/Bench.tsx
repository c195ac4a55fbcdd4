"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { useCallback, useMemo, useState } from "react";
import { lockNote, sheetOf } from "../../core/ensemble";
import { type HarmonyLine, steppedTo } from "../../core/harmony";
import { insertAfter, moveStep, remove, splitBar } from "../../core/score";
import { type Pitch, pitchName } from "../../core/theory";
import type { Loaded } from "../../server/collection";
import { WeaveStrip } from "../weave/WeaveStrip";
import { HelpSheet } from "./HelpSheet";
import { LENSES, type Selection } from "./lenses";
import { Panel } from "./panel/Panel";
import { Rows } from "./Rows";
import { TopLine } from "./TopLine";
import { Transport } from "./Transport";
import { type Loop, usePlayer } from "./usePlayer";
import { useBench } from "./useBench";
import { NOTE_EDITS, type NoteEdit } from "./noteEdits";
import { useChordEdits } from "./useChordEdits";
import { useKeys } from "./useKeys";
import { useNaming } from "./useNaming";
import { useRival } from "./useRival";
import { useSecond } from "./useSecond";
import type { PageName } from "./panel/TunePanel";

/** The working page of one tune. */
export function Bench({ loaded }: { loaded: Loaded }) {
  const bench = useBench(loaded);
  const { work, derived } = bench;
  const [lens, setLens] = useQueryState("lens", parseAsStringLiteral(LENSES).withDefault("Chords"));
  const [selection, setSelection] = useState<Selection>(null);
  const [bar, setBar] = useState(0);
  const [loop, setLoop] = useState<Loop>(null);
  const [shown, setShown] = useState("all");
  const [help, setHelp] = useState(false);
  const [folded, setFolded] = useState(false);
  const [page, setPage] = useState<PageName>("Say");
  const [refused, setRefused] = useState<string | undefined>(undefined);
  const naming = useNaming();
  const player = usePlayer(work, derived, bar, loop);
  const rival = useRival(bench, derived);

  const pick = useCallback(
    (next: number, extend: boolean) => {
      setLoop(extend ? { from: Math.min(bar, next), to: Math.max(bar, next) } : null);
      if (!extend) setBar(next);
    },
    [bar],
  );
  const select = useCallback(
    (next: Selection) => {
      setSelection(next);
      const place =
        next &&
        (next.kind === "event"
          ? next
          : next.kind === "chord"
            ? derived?.plan.chords[next.index]
            : derived?.line.notes[next.index]);
      if (next?.kind === "event") setPage("Note");
      if (place) {
        setBar(place.bar);
        setLoop(null);
      }
      if (next) setFolded(false);
    },
    [derived],
  );

  const hearBar = useCallback((bar: number) => player.play(bar, bar, false, false), [player.play]);
  const edits = useChordEdits(bench, derived, selection?.kind === "chord" ? selection.index : undefined, hearBar);
  const { chord } = edits;
  const playLine = useCallback(
    (from: number, to: number, line: HarmonyLine | null) => player.play(from, to, false, false, line),
    [player.play],
  );
  const second = useSecond(bench, playLine);
  const note = selection?.kind === "note" ? derived?.line.notes[selection.index] : undefined;
  const inBar =
    note && derived ? { bar: note.bar, at: note.at - (derived.analysis.places[note.bar]?.at ?? 0) } : undefined;
  const takeNote = useCallback(
    (pitch: Pitch | null) => {
      if (inBar)
        bench.change(`Harmony note ${pitch ? pitchName(pitch) : "rest"} locked`, (w) => lockNote(w, inBar, pitch));
    },
    [inBar, bench.change],
  );
  /** A harmony note dragged or stepped to another candidate. */
  const stepLine = useCallback(
    (index: number, steps: number) => {
      const moved = derived?.line.notes[index];
      const to = moved && steppedTo(moved, steps);
      setSelection({ kind: "note", index });
      if (moved && to)
        bench.change(`Harmony note ${pitchName(to)} locked`, (w) =>
          lockNote(w, { bar: moved.bar, at: moved.at - (derived.analysis.places[moved.bar]?.at ?? 0) }, to),
        );
    },
    [derived, bench.change],
  );
  const toggleNote = useCallback(() => {
    if (!inBar || !note) return;
    if (note.locked) bench.change("Harmony note freed", (w) => lockNote(w, inBar));
    else takeNote(note.pitch);
  }, [inBar, note, bench.change, takeNote]);

  const event = lens === "Tune" && selection?.kind === "event" ? selection : undefined;
  const edit = useCallback(
    (what: NoteEdit) => {
      if (!event) return setRefused("Choose a note first: click it, or press Enter.");
      const why = bench.edit(what.name, (tune) => what.edit(tune, event));
      setRefused(why);
      if (why === undefined && what.edit === insertAfter)
        setSelection({ kind: "event", bar: event.bar, event: event.event + 1 });
      if (why === undefined && what.edit === remove)
        setSelection({ kind: "event", bar: event.bar, event: Math.max(0, event.event - 1) });
      if (why === undefined && what.edit === splitBar) setSelection({ kind: "event", bar: event.bar + 1, event: 0 });
    },
    [event, bench.edit],
  );
  /** Drags a note of the tune by so many steps. */
  const drag = useCallback(
    (bar: number, order: number, steps: number) => {
      setSelection({ kind: "event", bar, event: order });
      setRefused(
        bench.edit(steps > 0 ? "Note moved up" : "Note moved down", (tune) =>
          moveStep(tune, { bar, event: order }, steps),
        ),
      );
    },
    [bench.edit],
  );
  /** The note before or after the chosen one. */
  const walk = (way: 1 | -1) => {
    if (!event || !derived) return;
    const all = derived.analysis.places.flatMap((p) => p.bar.events.map((_, e) => ({ bar: p.index, event: e })));
    const next = all[all.findIndex((s) => s.bar === event.bar && s.event === event.event) + way];
    if (next) select({ kind: "event", ...next });
  };
  const noteKeys = event
    ? Object.fromEntries(
        NOTE_EDITS.flatMap((g) => g.edits).flatMap((e) => [
          [e.keys, () => edit(e)],
          ...(e.keys === "Delete" ? [["Backspace", () => edit(e)]] : []),
        ]),
      )
    : {};

  const others: { symbol: string; at?: number | undefined; ticks?: number | undefined }[] =
    chord?.alternatives.filter((a) => a.symbol !== chord.added?.plain) ?? [];
  const last = (derived?.analysis.places.length ?? 1) - 1;
  useKeys({
    " ": player.toggle,
    ArrowRight: () => (event ? walk(1) : pick(Math.min(last, (loop?.to ?? bar) + 1), false)),
    ArrowLeft: () => (event ? walk(-1) : pick(Math.max(0, (loop?.from ?? bar) - 1), false)),
    "Shift+ArrowRight": () => setLoop({ from: loop?.from ?? bar, to: Math.min(last, (loop?.to ?? bar) + 1) }),
    "Shift+ArrowLeft": () =>
      setLoop({ from: loop?.from ?? bar, to: Math.max(loop?.from ?? bar, (loop?.to ?? bar) - 1) }),
    Enter: () => {
      if (lens === "Tune") return select({ kind: "event", bar, event: 0 });
      const i = derived?.plan.chords.findIndex((c) => c.bar === bar) ?? -1;
      if (i >= 0) select({ kind: "chord", index: i });
    },
    Escape: () => {
      if (help) setHelp(false);
      else {
        setSelection(null);
        setLoop(null);
      }
    },
    ...(selection?.kind === "note"
      ? { ArrowUp: () => stepLine(selection.index, 1), ArrowDown: () => stepLine(selection.index, -1) }
      : {}),
    l: note ? toggleNote : edits.toggleLock,
    L: edits.lockPhrase,
    D: edits.copyPhrase,
    s: edits.split,
    j: () => (chord ? edits.merge() : player.mute("second")),
    "[": () => edits.move(selection?.kind === "chord" ? selection.index : undefined, -1),
    "]": () => edits.move(selection?.kind === "chord" ? selection.index : undefined, 1),
    h: () => {
      if (selection) player.play(bar, bar, false, false);
    },
    ...Object.fromEntries(
      (note ? [note.pitch, ...note.alternatives.map((a) => a.pitch)].slice(0, 4) : []).map((pitch, i) => [
        String(i + 1),
        () => takeNote(pitch),
      ]),
    ),
    ...Object.fromEntries(
      (chord
        ? [chord.added && { symbol: chord.added.plain }, { symbol: chord.symbol }, ...others].slice(0, 5)
        : []
      ).map((a, i) => [
        String(i),
        () => {
          if (a) edits.take(a.symbol, "at" in a ? a : undefined);
        },
      ]),
    ),
    "Mod+z": () => {
      if (bench.canUndo) bench.travel("undo");
    },
    "Mod+Shift+z": () => {
      if (bench.canRedo) bench.travel("redo");
    },
    "Mod+y": () => {
      if (bench.canRedo) bench.travel("redo");
    },
    "-": () => player.setPercent((p) => Math.max(40, p - 5)),
    "+": () => player.setPercent((p) => Math.min(150, p + 5)),
    "=": () => player.setPercent((p) => Math.min(150, p + 5)),
    m: () => player.mute("melody"),
    n: () => player.mute("first"),
    c: () => player.mute("chords"),
    k: () => player.mute("moving"),
    t: () => setLens("Tune"),
    g: () => setLens("Chords"),
    y: () => setLens("Harmony"),
    p: () => setLens("Parts"),
    "?": () => setHelp((now) => !now),
    ...noteKeys,
  });

  const sheet = useMemo(() => {
    if (!derived) return null;
    const all = { ...sheetOf(work, derived), chords: [] };
    if (lens === "Tune") return { ...all, staves: all.staves.slice(0, 1) };
    if (lens === "Parts" && shown !== "all") return { ...all, staves: all.staves.filter((s) => s.id === shown) };
    return lens === "Parts"
      ? all
      : {
          ...all,
          staves: all.staves.filter(
            (s) => s.id === "melody" || s.id === "moving" || (lens === "Harmony" && s.id === "second"),
          ),
        };
  }, [work, derived, lens, shown]);

  return (
    <Flex direction="column" h="100dvh" overflow="hidden">
      <TopLine
        title={work.tune.title}
        sentence={derived?.analysis.sentence ?? ""}
        lens={lens}
        onLens={setLens}
        bench={bench}
        onHelp={() => setHelp(true)}
      />
      <Flex
        h="58px"
        flexShrink={0}
        bg="linen"
        borderBottom="1px solid"
        borderColor="cord"
        align="center"
        px="20px"
        gap="20px"
      >
        <Box w="128px" flexShrink={0} display={{ base: "none", md: "block" }}>
          <Text fontWeight="700" lineHeight="18px">
            The weave
          </Text>
          <Text fontSize="13px" color="quiet" lineHeight="16px">
            {derived ? weaveWords(derived.weave) : ""}
          </Text>
        </Box>
        <Box flex="1" minW="0">
          {derived && (
            <WeaveStrip
              cells={derived.weave}
              height={34}
              numbered={derived.weave.length <= 40}
              current={bar}
              sounding={player.sounding}
              loop={loop}
              onPick={pick}
            />
          )}
        </Box>
        <Text
          fontSize="13px"
          color="quiet"
          textAlign="right"
          w="150px"
          lineHeight="16px"
          display={{ base: "none", lg: "block" }}
        >
          {loop
            ? "drag or Shift+arrows set the loop; Esc clears it"
            : "same colour, same notes; yellow: where it parts"}
        </Text>
      </Flex>
      <Flex flex="1" minH="0" position="relative">
        <Box
          as="main"
          flex="1"
          minW="0"
          overflowY="auto"
          px="20px"
          id="rows"
          tabIndex={-1}
          aria-label="The tune, phrase by phrase"
        >
          {bench.problem && (
            <Text role="alert" color="madder" py="3">
              {bench.problem}
            </Text>
          )}
          {player.failure && (
            <Text role="alert" color="madder" py="3">
              No sound: {player.failure}
            </Text>
          )}
          {derived && sheet ? (
            <Rows
              derived={derived}
              sheet={sheet}
              lens={lens}
              selection={selection}
              onSelect={select}
              bar={bar}
              sounding={player.sounding}
              loop={loop}
              onPick={pick}
              naming={naming}
              onDrag={drag}
              rival={rival}
              second={second}
              onDragLine={stepLine}
              onMoveChange={edits.move}
            />
          ) : (
            <Text color="quiet" py="6">
              Deriving chords, harmony and parts…
            </Text>
          )}
        </Box>
        {derived && (
          <Panel
            bench={bench}
            derived={derived}
            lens={lens}
            selection={selection}
            onSelect={select}
            edits={edits}
            rival={rival}
            second={second}
            loop={loop}
            onNote={takeNote}
            onNoteLock={toggleNote}
            onBar={setBar}
            player={player}
            bar={bar}
            shown={shown}
            onShow={setShown}
            folded={folded}
            onFold={setFolded}
            naming={naming}
            page={page}
            onPage={setPage}
            onEdit={edit}
            refused={refused}
            onRefused={setRefused}
          />
        )}
      </Flex>
      <Transport player={player} work={work} derived={derived} loop={loop} bar={bar} onLoop={setLoop} />
      <HelpSheet open={help} onClose={() => setHelp(false)} />
    </Flex>
  );
}

function weaveWords(cells: readonly { dye: number; parting: boolean }[]): string {
  const ideas = new Set(cells.map((c) => c.dye)).size;
  const endings = cells.filter((c, i) => c.parting && !cells[i - 1]?.parting).length;
  return `${ideas} ${ideas === 1 ? "idea" : "ideas"}${endings ? `, ${endings} new ${endings === 1 ? "ending" : "endings"}` : ""}`;
}
