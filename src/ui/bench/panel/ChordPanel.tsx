"use client";
import { Button, Flex, Input, Text } from "@chakra-ui/react";
import { type FormEvent, useEffect, useRef } from "react";
import type { PlannedChord } from "../../../core/chords";
import type { Derived } from "../../../core/ensemble";
import { music } from "../../../core/analysis";
import { beatsWords, beatTicks, type Place } from "../../../core/score";
import { type ChordNames, chordWords, nameChord, parseChord } from "../../../core/theory";
import type { ChordEdits } from "../useChordEdits";
import { Block, ChoiceRow, Key, PanelHead, Tile } from "./parts";

const CHORD_NOTES = ["root", "third", "fifth", "seventh"];
/** What the search would pay for a chord no style of the mode has: shown as a word. */
const OFF_STYLE = 30;

/** Which beats of its bar a part of a place is. */
function partWords(place: Place, at: number, ticks: number): string {
  const beat = beatTicks(place.metre);
  const [from, to] = [Math.floor((place.offset + at) / beat) + 1, Math.ceil((place.offset + at + ticks) / beat)];
  return to > from ? `beats ${from}–${to}` : `beat ${from}`;
}

type Props = { chord: PlannedChord; derived: Derived; edits: ChordEdits; names: ChordNames; onHear: () => void };

/** Why this chord, what else it could be, and every way to change it. */
export function ChordPanel({ chord, derived, edits, names, onHear }: Props) {
  const { places } = derived.analysis;
  const place = places[chord.bar] as Place;
  const parsed = parseChord(chord.symbol);
  const beats = chord.ticks / beatTicks(place.metre);
  const span = chord.ticks >= place.ticks ? "whole bar" : `${beatsWords(beats)} ${beats > 1 ? "beats" : "beat"}`;
  const worth = (cost: number) => Math.exp(-Math.max(0, cost) / 4);
  const named = (symbol: string) => nameChord(symbol, place.key, names);
  return (
    <>
      <PanelHead
        title={`${parsed ? chordWords(parsed) : chord.symbol}, bar ${place.number}`}
        sub={`${chord.roman} · ${span}${chord.locked ? " · locked" : ""}`}
      />
      <Text mb="12px">{chord.reason}</Text>
      <Flex gap="6px" wrap="wrap">
        {chord.notes.map((n) => {
          const foreign = !CHORD_NOTES.includes(n.role);
          return (
            <Tile
              key={n.name + n.role}
              name={n.name.replace("b", "♭").replace("#", "♯")}
              what={foreign ? n.role : `${n.role} · ${beatsWords(n.beats)}`}
              foreign={foreign}
            />
          );
        })}
      </Flex>
      <LikeBars chord={chord} derived={derived} />
      <Block title={chord.locked ? "Choose another" : "Runners-up, with what the whole plan would cost more"}>
        <ChoiceRow
          name={named(chord.symbol)}
          worth={1}
          note={chord.locked ? "locked" : "best"}
          keyName="1"
          chosen
          onTake={() => edits.take(chord.symbol)}
        />
        {chord.added && (
          <ChoiceRow
            name={named(chord.added.plain)}
            worth={0.6}
            note="plain"
            keyName="0"
            onTake={() => edits.take(chord.added?.plain as string)}
          />
        )}
        {chord.alternatives
          .filter((a) => a.symbol !== chord.added?.plain)
          .slice(0, 5)
          .map((a, i) => (
            <ChoiceRow
              key={a.symbol}
              name={named(a.symbol)}
              worth={worth(a.cost)}
              note={`${a.at === undefined ? "" : `${partWords(place, a.at, a.ticks ?? 0)} `}${a.cost > OFF_STYLE ? "off style" : `${a.cost < 0 ? "−" : "+"}${Math.abs(a.cost).toFixed(1)}`}`}
              keyName={i < 3 ? String(i + 2) : undefined}
              onTake={() => edits.take(a.symbol, a)}
            />
          ))}
        <WriteChord key={`${chord.bar}.${chord.at}`} onWrite={edits.write} />
      </Block>
      {edits.refused && (
        <Text role="alert" color="madder" fontSize="14px" mt="8px">
          {edits.refused}
        </Text>
      )}
      <Flex
        wrap="wrap"
        mt="10px"
        gap="0 10px"
        css={{
          "& button": {
            height: "32px",
            paddingInline: "2px",
            color: "var(--chakra-colors-ink)",
            fontWeight: 500,
            fontSize: "14px",
          },
        }}
      >
        <Button variant="plain" onClick={edits.toggleLock}>
          <Key>L</Key> {chord.locked ? "unlock" : "lock"}
        </Button>
        <Button variant="plain" onClick={onHear}>
          <Key>H</Key> hear
        </Button>
        <Button variant="plain" onClick={edits.split}>
          <Key>S</Key> split
        </Button>
        <Button variant="plain" onClick={edits.merge}>
          <Key>J</Key> join
        </Button>
        <Button variant="plain" onClick={() => edits.move(derived.plan.chords.indexOf(chord), -1)}>
          <Key>[</Key> earlier
        </Button>
        <Button variant="plain" onClick={() => edits.move(derived.plan.chords.indexOf(chord), 1)}>
          <Key>]</Key> later
        </Button>
      </Flex>
      {edits.phrase && (
        <Flex
          wrap="wrap"
          gap="0 10px"
          css={{
            "& button": {
              height: "32px",
              paddingInline: "2px",
              color: "var(--chakra-colors-ink)",
              fontWeight: 500,
              fontSize: "14px",
            },
          }}
        >
          <Button variant="plain" onClick={edits.lockPhrase}>
            <Key>⇧L</Key> lock {edits.phrase.name}
          </Button>
          <Button variant="plain" onClick={edits.copyPhrase}>
            <Key>⇧D</Key> copy to like phrases
          </Button>
        </Flex>
      )}
    </>
  );
}

/** A line to write any chord in. Focused by its key. */
function WriteChord({ onWrite }: { onWrite: (text: string) => boolean }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const answer = (e: KeyboardEvent) => {
      if (
        e.key.toLowerCase() !== "w" ||
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        (e.target as HTMLElement).closest("input, textarea, select")
      )
        return;
      e.preventDefault();
      field.current?.focus();
    };
    window.addEventListener("keydown", answer);
    return () => window.removeEventListener("keydown", answer);
  }, []);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (field.current && onWrite(field.current.value)) {
      field.current.value = "";
      field.current.blur();
    }
  };
  return (
    <Flex as="form" onSubmit={submit} align="center" gap="10px" h="42px" borderTop="1px solid" borderColor="cord">
      <Input
        ref={field}
        size="sm"
        h="30px"
        flex="1"
        bg="fleece"
        borderColor="cord"
        placeholder="another: F#m, G7, D/A"
        aria-label="Write a chord"
        maxLength={80}
        onKeyDown={(e) => {
          if (e.key === "Escape") e.currentTarget.blur();
        }}
      />
      <Key>W</Key>
    </Flex>
  );
}

/** Bars with the same notes, and whether they have the same chord here. */
function LikeBars({ chord, derived }: { chord: PlannedChord; derived: Derived }) {
  const { places } = derived.analysis;
  const own = music(places[chord.bar] as Place);
  const like = places.filter((p) => p.index !== chord.bar && !p.pickup && music(p) === own);
  if (like.length === 0) return null;
  const chords = like.map((p) => derived.plan.chords.findLast((c) => c.bar === p.index && c.at <= chord.at)?.symbol);
  const agree = chords.every((s) => s === chord.symbol);
  const names = like.map((p) => p.number);
  const bars =
    names.length === 1
      ? `Bar ${names[0]} is`
      : `Bars ${names.slice(0, -1).join(", ")} and ${names[names.length - 1]} are`;
  const outcome = agree
    ? names.length === 1
      ? "gets the same chord"
      : "get the same chord"
    : `${names.length === 1 ? "has" : "have"} ${[...new Set(chords)].join(", ")} here`;
  return (
    <Text mt="12px" color="quiet">
      {bars} the same music and {outcome}.
    </Text>
  );
}
