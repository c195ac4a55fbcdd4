"use client";
import { Flex, Input, Text } from "@chakra-ui/react";
import { type FormEvent, useEffect, useRef } from "react";
import { music } from "../../../core/analysis";
import type { PlannedChord } from "../../../core/chords";
import { beatsWords, beatTicks, type Place, barLabel } from "../../../core/score";
import { chordWords, nameChord, parseChord } from "../../../core/theory";
import { KeyButton } from "../../controls/buttons";
import { listed, signed, signedText } from "../../signs";
import { chosenChord, useBench } from "../state";
import { useChordNames } from "../useChordNames";
import { ChordShapes } from "./hands/ChordShapes";
import { Block, ChoiceBar, nearness, Key, PanelHead, Tile } from "./parts";

const CHORD_NOTES = ["root", "third", "fifth", "seventh"];
/** What the search would pay for a chord no style of the mode has: shown as a word. */
const OFF_STYLE = 30;
/** Runners-up shown, and those that have a key. */
const SHOWN = 5;
const KEYED = 3;

/** Which beats of its bar a part of a place is. */
function partWords(place: Place, at: number, ticks: number): string {
  const beat = beatTicks(place.metre);
  const [from, to] = [Math.floor((place.offset + at) / beat) + 1, Math.ceil((place.offset + at + ticks) / beat)];
  return to > from ? `beats ${from}–${to}` : `beat ${from}`;
}

/** How long a chord lasts, in words. */
function spanWords(chord: PlannedChord, place: Place): string {
  if (chord.ticks >= place.ticks) return "whole bar";
  const beats = chord.ticks / beatTicks(place.metre);
  return `${beatsWords(beats)} ${beats > 1 ? "beats" : "beat"}`;
}

type Alternative = PlannedChord["alternatives"][number];
/** A price as it stands beside a choice, with the part of the place it is for. */
function priceWords({ at, ticks = 0, cost }: Alternative, place: Place): string {
  const part = at === undefined ? "" : `${partWords(place, at, ticks)} `;
  return `${part}${cost > OFF_STYLE ? "not in this style" : nearness(cost)}`;
}

const standingWords = ({ locked, kept }: PlannedChord): string => {
  if (kept) return " · yours, unlocked";
  return locked ? " · locked" : "";
};

/** Why this chord, what else it could be, and every way to change it. */
export function ChordPanel({ chord }: { chord: PlannedChord }) {
  const place = useBench((s) => s.derived.analysis.places[chord.bar] as Place);
  const refused = useBench((s) => s.chordRefused);
  const parsed = parseChord(chord.symbol);
  return (
    <>
      <PanelHead
        title={`${parsed ? chordWords(parsed) : chord.symbol}, bar ${barLabel(place)}`}
        sub={`${chord.roman} · ${spanWords(chord, place)}${standingWords(chord)}`}
      />
      <Text mb="12px">{signedText(chord.reason)}</Text>
      <Flex gap="6px" wrap="wrap">
        {chord.notes.map((n) => {
          const foreign = !CHORD_NOTES.includes(n.role);
          const what = foreign ? n.role : `${n.role} · ${beatsWords(n.beats)}`;
          return <Tile key={n.name + n.role} name={signed(n.name)} what={what} foreign={foreign} />;
        })}
      </Flex>
      <LikeBars chord={chord} />
      <Choices chord={chord} place={place} />
      {refused && (
        <Text role="alert" color="madder" fontSize="14px" mt="8px">
          {refused}
        </Text>
      )}
      <Changes chord={chord} />
      <PhraseChanges />
      <ChordShapes symbol={chord.symbol} />
    </>
  );
}

/** The chord as it is, without what was added, its runners-up, and a line for any other. */
function Choices({ chord, place }: { chord: PlannedChord; place: Place }) {
  const take = useBench((s) => s.takeChord);
  const { names } = useChordNames();
  const named = (symbol: string) => nameChord(symbol, place.key, names);
  const worth = (cost: number) => Math.exp(-Math.max(0, cost) / 4);
  const { added } = chord;
  const others = chord.alternatives.filter((a) => a.symbol !== added?.plain).slice(0, SHOWN);
  return (
    <Block title={chord.locked ? "Choose another" : "Other chords, the nearest first"}>
      <ChoiceBar
        name={named(chord.symbol)}
        worth={1}
        note={chord.locked || chord.kept ? "yours" : "best"}
        keyName="1"
        chosen
        onTake={() => take(chord.symbol)}
      />
      {added && (
        <ChoiceBar name={named(added.plain)} worth={0.6} note="plain" keyName="0" onTake={() => take(added.plain)} />
      )}
      {others.map((a, i) => (
        <ChoiceBar
          key={a.symbol}
          name={named(a.symbol)}
          worth={worth(a.cost)}
          note={priceWords(a, place)}
          price={a.cost}
          keyName={i < KEYED ? String(i + 2) : undefined}
          onTake={() => take(a.symbol, a)}
        />
      ))}
      <WriteChord key={`${chord.bar}.${chord.at}`} />
    </Block>
  );
}

function Changes({ chord }: { chord: PlannedChord }) {
  const toggle = useBench((s) => s.toggleChordLock);
  const anew = useBench((s) => s.planChordAnew);
  const split = useBench((s) => s.splitChord);
  const merge = useBench((s) => s.mergeChord);
  const move = useBench((s) => s.moveChord);
  const hear = useBench((s) => s.hear);
  const index = useBench((s) => chosenChord(s).index);
  const actions: [key: string, words: string, act: () => void][] = [
    ["L", chord.locked ? "unlock" : "lock", toggle],
    ["H", "hear", () => hear(chord.bar, chord.bar)],
    ["S", "split", split],
    ["J", "join", merge],
    ["[", "earlier", () => move(index, -1)],
    ["]", "later", () => move(index, 1)],
    ...(chord.locked || chord.kept ? [["A", "work it out anew", anew] as [string, string, () => void]] : []),
  ];
  return (
    <Flex wrap="wrap" mt="10px" gap="0 10px">
      {actions.map(([key, words, act]) => (
        <KeyButton key={key} onClick={act}>
          <Key>{key}</Key> {words}
        </KeyButton>
      ))}
    </Flex>
  );
}

function PhraseChanges() {
  const name = useBench((s) => chosenChord(s).phrase?.name);
  const lock = useBench((s) => s.lockPhrase);
  const copy = useBench((s) => s.copyPhrase);
  if (!name) return null;
  return (
    <Flex wrap="wrap" gap="0 10px">
      <KeyButton onClick={lock}>
        <Key>⇧L</Key> lock {name}
      </KeyButton>
      <KeyButton onClick={copy}>
        <Key>⇧D</Key> copy to like phrases
      </KeyButton>
    </Flex>
  );
}

/** A line to write any chord in. Focused by its key. */
function WriteChord() {
  const write = useBench((s) => s.writeChord);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const answer = (e: KeyboardEvent) => {
      const typing = (e.target as HTMLElement).closest("input, textarea, select");
      if (e.key.toLowerCase() !== "w" || e.ctrlKey || e.metaKey || e.altKey || typing) return;
      e.preventDefault();
      field.current?.focus();
    };
    window.addEventListener("keydown", answer);
    return () => window.removeEventListener("keydown", answer);
  }, []);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (!field.current || !write(field.current.value)) return;
    field.current.value = "";
    field.current.blur();
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
function LikeBars({ chord }: { chord: PlannedChord }) {
  const places = useBench((s) => s.derived.analysis.places);
  const plan = useBench((s) => s.derived.plan);
  const own = music(places[chord.bar] as Place);
  const like = places.filter((p) => p.index !== chord.bar && !p.pickup && music(p) === own);
  if (like.length === 0) return null;
  const chords = like.map((p) => plan.chords.findLast((c) => c.bar === p.index && c.at <= chord.at)?.symbol);
  const one = like.length === 1;
  const bars = `${one ? "Bar" : "Bars"} ${listed(like.map((p) => barLabel(p)))}`;
  const agree = chords.every((s) => s === chord.symbol);
  const same = one ? "gets the same chord" : "get the same chord";
  const other = `${one ? "has" : "have"} ${[...new Set(chords)].map((c) => signed(c ?? "no chord")).join(", ")} here`;
  return (
    <Text mt="12px" color="quiet">
      {bars} {one ? "is" : "are"} the same music and {agree ? same : other}.
    </Text>
  );
}
