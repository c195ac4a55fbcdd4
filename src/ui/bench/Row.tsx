"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { type Phrase, relationWords } from "../../core/analysis";
import type { Derived } from "../../core/ensemble";
import { type Sheet, slice } from "../../core/score";
import { startEngraver } from "../../workers/engrave";
import { type Measured, measureRow, nameStaves, noteAt } from "../engraving/measure";
import { WeaveStrip } from "../weave/WeaveStrip";
import type { Lens, Selection } from "./lenses";
import { useNear } from "./useNear";
import { ChangeMarks, ChordLane, type Laned } from "./ChordLane";
import { LineMarks } from "./LineMarks";
import { NameLane } from "./NameLane";
import type { NamingState } from "./useNaming";
import type { RivalState } from "./useRival";
import type { SecondState } from "./useSecond";
import type { Loop } from "./usePlayer";

type Props = {
  derived: Derived;
  sheet: Sheet;
  lens: Lens;
  selection: Selection;
  onSelect: (next: Selection) => void;
  bar: number;
  sounding: number | null;
  loop: Loop;
  onPick: (bar: number, extend: boolean) => void;
  phrase: Phrase;
  from: number;
  to: number;
  width: number;
  rival: RivalState;
  second: SecondState;
  onDragLine: (index: number, steps: number) => void;
  onMoveChange: (index: number, beats: number) => void;
  naming: NamingState;
  onDrag: (bar: number, event: number, steps: number) => void;
};

/** A box over a bar's staves, with a little room above and below. */
const over = (b: Measured["bars"][number]) => ({
  left: b.left,
  width: b.right - b.left,
  top: b.top - 8,
  height: b.bottom - b.top + 16,
});

/** How many of the drawing's own units so many pixels of the screen are. */
const scaleOf = (mark: Element, pixels: number): number =>
  pixels / ((mark as SVGGraphicsElement).getScreenCTM?.()?.a || 1);

/** Clash above which a bar gets its notch. */
const NOTCH = 30;

/**
 * One phrase: its name and what it repeats, the chords over their notes, the staves. Engraved anew only when its own
 * music changes.
 */
export const Row = memo(function Row({
  derived,
  sheet,
  lens,
  selection,
  onSelect,
  bar,
  sounding,
  loop,
  onPick,
  phrase,
  from,
  to,
  width,
  naming,
  onDrag,
  rival,
  second,
  onDragLine,
  onMoveChange,
}: Props) {
  const section = useRef<HTMLDivElement>(null);
  const holder = useRef<HTMLDivElement>(null);
  const [svg, setSvg] = useState("");
  const [measured, setMeasured] = useState<Measured | null>(null);
  const own = useMemo(() => slice(sheet, from, to + 1), [sheet, from, to]);
  const near = useNear(section);
  const music = useMemo(
    () => JSON.stringify([own.staves, own.places.map((p) => [p.bar, p.number, p.key, p.metre])]),
    [own],
  );

  // biome-ignore lint/correctness/useExhaustiveDependencies: `music` stands for `own`, which is new at every change of any row
  useEffect(() => {
    if (!near) return;
    let current = true;
    void startEngraver()
      .row(own, width)
      .then((drawn) => {
        if (current) setSvg(drawn.svg);
      });
    return () => {
      current = false;
    };
  }, [music, width, near]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: measured from the SVG that `svg` has just put in place
  useLayoutEffect(() => {
    if (!holder.current || !svg) return;
    nameStaves(
      holder.current,
      own.staves.map((s) => s.id),
    );
    setMeasured(
      measureRow(
        holder.current,
        own.places.map((p) => p.index),
        own.staves.map((s) => s.id),
      ),
    );
  }, [svg]);

  useEffect(() => {
    const chosen = selection?.kind === "note" ? derived.line.notes[selection.index] : undefined;
    for (const old of holder.current?.querySelectorAll("[data-chosen]") ?? []) old.removeAttribute("data-chosen");
    const id = chosen
      ? `moving.${chosen.bar}.${chosen.event}`
      : selection?.kind === "event"
        ? `melody.${selection.bar}.${selection.event}`
        : undefined;
    if (svg && id) holder.current?.querySelector(`[data-id="${id}"]`)?.setAttribute("data-chosen", "");
  }, [selection, derived, svg]);

  const playing = sounding !== null && sounding >= from && sounding <= to;
  useEffect(() => {
    if (playing) section.current?.scrollIntoView({ block: "nearest", behavior: "auto" });
  }, [playing]);

  /**
   * A note of the tune, or of the line in the harmony lens, picked up by the pointer: moved by whole steps of the
   * staff, let go to take.
   */
  const held = useRef<{
    staff: string;
    bar: number;
    event: number;
    y: number;
    step: number;
    steps: number;
    mark: Element | null;
  } | null>(null);
  const pickUp = (event: React.PointerEvent) => {
    const box = holder.current?.getBoundingClientRect();
    if (!box || !measured || (lens !== "Tune" && lens !== "Harmony") || event.shiftKey || event.button !== 0) return;
    const hit = noteAt(measured, event.clientX - box.left, event.clientY - box.top);
    const staff = measured.staves.find(
      (s) => s.bar === hit?.bar && s.staff === (lens === "Tune" ? "melody" : "moving"),
    );
    if (!hit || !staff || hit.staff !== staff.staff) return;
    const mark = holder.current?.querySelector(`[data-id="${staff.staff}.${hit.bar}.${hit.event}"]`) ?? null;
    held.current = {
      staff: staff.staff,
      bar: hit.bar,
      event: hit.event,
      y: event.clientY,
      step: (staff.bottom - staff.top) / 8,
      steps: 0,
      mark,
    };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: React.PointerEvent) => {
    const note = held.current;
    if (!note) return;
    note.steps = Math.round((note.y - event.clientY) / note.step);
    if (note.mark)
      (note.mark as SVGElement).style.transform = note.steps
        ? `translate(0, ${-note.steps * scaleOf(note.mark, note.step)}px)`
        : "";
  };
  const letGo = () => {
    const note = held.current;
    held.current = null;
    if (!note) return;
    if (note.mark) (note.mark as SVGElement).style.transform = "";
    if (!note.steps) return;
    if (note.staff === "melody") return onDrag(note.bar, note.event, note.steps);
    const index = lineNote(note);
    if (index >= 0) onDragLine(index, note.steps);
  };

  /** The note of the line at, or held through, an event of a bar. */
  const lineNote = ({ bar, event }: { bar: number; event: number }) =>
    derived.line.notes.findLastIndex((n) => n.bar < bar || (n.bar === bar && n.event <= event));

  const click = (event: React.MouseEvent) => {
    const box = holder.current?.getBoundingClientRect();
    if (!box || !measured) return;
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const hit = noteAt(measured, x, y);
    if (hit?.staff === "moving" && !event.shiftKey) {
      const index = lineNote(hit);
      if (index >= 0) return onSelect({ kind: "note", index });
    }
    if (lens === "Tune" && hit?.staff === "melody" && !event.shiftKey)
      return onSelect({ kind: "event", bar: hit.bar, event: hit.event });
    const bar = measured.bars.find((b) => x >= b.left && x <= b.right);
    if (bar) onPick(bar.index, event.shiftKey);
  };

  const { weave, analysis, plan } = derived;
  const cells = useMemo(() => weave.filter((c) => c.bar >= from && c.bar <= to), [weave, from, to]);
  const chords = plan.chords.flatMap((chord, index): Laned[] =>
    chord.bar < from || chord.bar > to
      ? []
      : [
          {
            chord,
            index,
            goesOn: plan.chords[index - 1]?.symbol === chord.symbol && (plan.chords[index - 1]?.bar ?? -1) >= from,
          },
        ],
  );
  const relation = relationWords(phrase, analysis.form, analysis.places);
  const framed = measured?.bars.find((b) => b.index === (sounding ?? bar));
  const first = from === phrase.from;
  return (
    <Flex
      ref={section}
      as="section"
      css={{ contain: "layout style" }}
      aria-label={`${phrase.name}: ${relation}`}
      borderBottom="1px solid"
      borderColor="cord"
      pt="8px"
      pb={lens === "Harmony" && second.numbers ? "20px" : "2px"}
      direction={{ base: "column", md: "row" }}
    >
      <Box
        w={{ base: "100%", md: "132px" }}
        flexShrink={0}
        pr={{ base: 0, md: "18px" }}
        pt={{ base: "2px", md: lens === "Tune" ? "12px" : "36px" }}
      >
        {first && (
          <Text fontFamily="heading" fontSize="20px" fontWeight="600" lineHeight="24px">
            {phrase.name}
          </Text>
        )}
        <Box my="5px">
          <WeaveStrip cells={cells} height={9} />
        </Box>
        {first && (
          <Text fontSize="13px" color="quiet" lineHeight="17px">
            {relation}
          </Text>
        )}
      </Box>
      <Box flex="1" minW="0" position="relative" minH="110px">
        {lens !== "Tune" && (
          <ChordLane
            chords={chords}
            places={own.places}
            measured={measured}
            chosen={selection?.kind === "chord" ? selection.index : null}
            names={rival.names}
            rivals={
              lens === "Chords" ? (rival.compared?.bars.filter((b) => b.bar >= from && b.bar <= to) ?? null) : null
            }
            fits={lens === "Chords" ? plan.fits : null}
            onSelect={onSelect}
            onMove={onMoveChange}
          />
        )}
        <Box position="relative">
          {framed && (
            <Box
              position="absolute"
              pointerEvents="none"
              borderRadius="4px"
              style={over(framed)}
              border={sounding !== null ? "2.5px solid var(--chakra-colors-ink)" : undefined}
              bg={sounding === null ? "linen" : undefined}
            />
          )}
          {loop &&
            measured?.bars
              .filter((b) => b.index >= loop.from && b.index <= loop.to)
              .map((b) => (
                <Box key={b.index} position="absolute" pointerEvents="none" bg="wash" opacity={0.6} style={over(b)} />
              ))}
          {/* biome-ignore lint/a11y/noStaticElementInteractions: the picture of the music; every bar and chord has its own button above */}
          {/* biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys and Enter do the same for the whole page */}
          {/* biome-ignore lint/security/noDangerouslySetInnerHtml: the engraver's own SVG, made from escaped text */}
          <div
            ref={holder}
            data-engraving
            style={{ position: "relative", touchAction: lens === "Tune" || lens === "Harmony" ? "pan-y" : undefined }}
            onClick={click}
            onPointerDown={pickUp}
            onPointerMove={move}
            onPointerUp={letGo}
            onPointerCancel={letGo}
            dangerouslySetInnerHTML={{ __html: svg }}
          />
          {lens === "Tune" && naming.spelling && (
            <NameLane places={own.places} measured={measured} spelling={naming.spelling} on={naming.on} />
          )}
          {lens === "Chords" && measured && <ChangeMarks chords={chords} places={own.places} measured={measured} />}
          {lens === "Harmony" && measured && (
            <LineMarks
              line={derived.line}
              places={own.places}
              measured={measured}
              numbers={second.numbers}
              ghost={second.ghost}
            />
          )}
          {lens === "Harmony" &&
            measured?.bars.map((b) => {
              const clash = derived.line.clashes[b.index] ?? 0;
              return clash >= NOTCH ? (
                <Box
                  key={b.index}
                  as="span"
                  position="absolute"
                  h="5px"
                  style={{
                    left: b.left + 4,
                    top: b.bottom + 4,
                    width: Math.max(8, ((b.right - b.left - 8) * clash) / 100),
                  }}
                  bg={clash >= 50 ? "madder" : "weld"}
                  borderRadius="1px"
                  title={`Bar ${derived.analysis.places[b.index]?.number}: clash ${clash} of 100`}
                />
              ) : null;
            })}
        </Box>
      </Box>
    </Flex>
  );
});
