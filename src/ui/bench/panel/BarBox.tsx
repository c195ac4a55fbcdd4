"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type GroupPart, tonightsTempo, writeBar } from "../../../core/ensemble";
import { barText, breaches, readBar, ROLE_RULES } from "../../../core/grading";
import { barLabelAt, beatTicks, type Place } from "../../../core/score";
import { LineButton } from "../../controls/buttons";
import { useBench } from "../state";

/** The bar that is looked at, of a learner's part, as it is typed; what it breaks is told as it is typed. */
export function BarBox({ part }: { part: GroupPart }) {
  const bar = useBench((s) => s.bar);
  const place = useBench((s) => s.derived.analysis.places[s.bar]);
  const key = useBench((s) => s.derived.analysis.key.key);
  if (!place || ROLE_RULES[part.role].kind === "chords") return null;
  const own = part.notes.filter((n) => n.bar === bar);
  const text = barText(own, place, key);
  return <Typed key={`${part.id} ${bar} ${text}`} part={part} place={place} now={text} />;
}

function Typed({ part, place, now }: { part: GroupPart; place: Place; now: string }) {
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const change = useBench((s) => s.change);
  const [text, setText] = useState(now);
  const { places } = derived.analysis;
  const { name } = part.learner;
  const label = barLabelAt(places, place.index);
  const byHand = work.evening?.edits?.some((e) => e.name === name && e.bar === place.index) ?? false;
  const read = readBar(text, place);
  const tick = 60 / (tonightsTempo(work, derived) * beatTicks(work.tune.metre));
  const others = part.notes.filter((n) => n.bar !== place.index);
  const notes = "notes" in read ? [...others, ...read.notes].sort((a, b) => a.bar - b.bar || a.at - b.at) : part.notes;
  const found = breaches({ role: part.role, on: part.on, limits: part.limits, notes, places, tick });
  const told = "fault" in read ? [read.fault] : found.filter((b) => b.bar === place.index).map((b) => b.words);
  const take = () => {
    if ("fault" in read) return;
    const plain = read.notes.map(({ at, ticks, pitches, stroke }) => ({
      at,
      ticks,
      pitches: [...pitches],
      ...(stroke === "heavy" || stroke === "light" ? { stroke } : {}),
    }));
    change(`${name}, bar ${label} by hand`, (w) => writeBar(w, name, place.index, plain));
  };
  return (
    <Box
      as="form"
      mt="8px"
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <label htmlFor="part-bar">
        <Text as="span" fontSize="13px" color="quiet">
          {place.pickup ? "The pickup" : `Bar ${label}`}, as it sounds{byHand ? ", by hand" : ""}
        </Text>
      </label>
      <Flex gap="6px">
        <Input
          id="part-bar"
          size="sm"
          bg="fleece"
          fontFamily="mono"
          borderColor={told.length > 0 ? "madder" : "cord"}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Escape") setText(now);
          }}
        />
        <LineButton type="submit" disabled={text === now || "fault" in read}>
          take
        </LineButton>
      </Flex>
      {[...new Set(told)].map((words) => (
        <Text key={words} role="alert" fontSize="13px" color="madder" mt="2px">
          {words}
        </Text>
      ))}
      {byHand && (
        <LineButton
          size="xs"
          mt="4px"
          onClick={() => change(`${name}, bar ${label} as planned`, (w) => writeBar(w, name, place.index, null))}
        >
          as it was planned
        </LineButton>
      )}
    </Box>
  );
}
