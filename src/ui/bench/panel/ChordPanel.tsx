"use client";
import { Button, Flex, Text } from "@chakra-ui/react";
import type { PlannedChord } from "../../../core/chords";
import type { Derived } from "../../../core/ensemble";
import { music } from "../../../core/analysis";
import { beatsWords, beatTicks, type Place } from "../../../core/score";
import { chordWords, parseChord } from "../../../core/theory";
import { Block, ChoiceRow, Key, PanelHead, Tile } from "./parts";

const CHORD_NOTES = ["root", "third", "fifth", "seventh"];

type Props = { chord: PlannedChord; derived: Derived; onTake: (symbol: string) => void; onLock: () => void; onHear: () => void };

/** Why this chord, what else it could be, and the lock. */
export function ChordPanel({ chord, derived, onTake, onLock, onHear }: Props) {
  const { places } = derived.analysis;
  const place = places[chord.bar] as Place;
  const parsed = parseChord(chord.symbol);
  const beats = chord.ticks / beatTicks(place.metre);
  const span = chord.ticks >= place.ticks ? "whole bar" : `${beatsWords(beats)} ${beats > 1 ? "beats" : "beat"}`;
  const worth = (cost: number) => Math.exp(-Math.max(0, cost) / 4);
  return (
    <>
      <PanelHead title={`${parsed ? chordWords(parsed) : chord.symbol}, bar ${place.number}`} sub={`${chord.roman} · ${span}${chord.locked ? " · locked" : ""}`} />
      <Text mb="12px">{chord.reason}</Text>
      <Flex gap="6px" wrap="wrap">
        {chord.notes.map((n) => {
          const foreign = !CHORD_NOTES.includes(n.role);
          return <Tile key={n.name + n.role} name={n.name.replace("b", "♭").replace("#", "♯")} what={foreign ? n.role : `${n.role} · ${beatsWords(n.beats)}`} foreign={foreign} />;
        })}
      </Flex>
      <LikeBars chord={chord} derived={derived} />
      <Block title={chord.locked ? "Choose another" : "Runners-up, with what the whole plan would cost more"}>
        <ChoiceRow name={chord.symbol} worth={1} note={chord.locked ? "locked" : "best"} keyName="1" chosen onTake={() => onTake(chord.symbol)} />
        {chord.alternatives.slice(0, 5).map((a, i) => (
          <ChoiceRow key={a.symbol} name={a.symbol} worth={worth(a.cost)} note={a.cost > 30 ? "off style" : `${a.cost < 0 ? "−" : "+"}${Math.abs(a.cost).toFixed(1)}`} keyName={i < 3 ? String(i + 2) : undefined} onTake={() => onTake(a.symbol)} />
        ))}
      </Block>
      <Flex gap="8px" mt="14px">
        <Button variant="plain" px="4px" color="ink" onClick={onLock}><Key>L</Key> {chord.locked ? "unlock it" : "lock it"}</Button>
        <Button variant="plain" px="4px" color="ink" onClick={onHear}><Key>H</Key> hear the bar</Button>
      </Flex>
    </>
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
  const bars = names.length === 1 ? `Bar ${names[0]} is` : `Bars ${names.slice(0, -1).join(", ")} and ${names[names.length - 1]} are`;
  const outcome = agree ? (names.length === 1 ? "gets the same chord" : "get the same chord") : `${names.length === 1 ? "has" : "have"} ${[...new Set(chords)].join(", ")} here`;
  return <Text mt="12px" color="quiet">{bars} the same music and {outcome}.</Text>;
}
