"use client";
import { Box, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useState } from "react";
import { type Evening, joinedOf, joinOf, shapeWhole, tonightsTempo } from "../../../core/ensemble";
import { listFollowers } from "../../../server/actions";
import type { Follower } from "../../../server/joins";
import { Picker } from "../../controls/Choice";
import { LinkButton } from "../../controls/buttons";
import { counted, minutes } from "../../signs";
import { useDeed } from "../../useDeed";
import { useBench } from "../state";

const NONE = "";

/** The tune that this one goes on into: the chord and the beat of the join, who waits, and how long both last. */
export function Medley({ evening }: { evening: Evening }) {
  const id = useBench((s) => s.id);
  const next = useBench((s) => s.work.evening?.roadmap?.next);
  const change = useBench((s) => s.change);
  const [tunes, setTunes] = useState<Follower[] | null>(null);
  const { run, failure } = useDeed();
  const look = () => void run(() => listFollowers(id), setTunes);
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked up once, where a tune was chosen before
  useEffect(() => {
    if (next !== undefined) look();
  }, []);
  const found = tunes?.find((t) => t.id === next);
  return (
    <Box as="section" aria-label="Medley" mt="10px">
      {tunes === null && next === undefined && <LinkButton onClick={look}>go on into another tune</LinkButton>}
      {failure}
      {tunes !== null && (
        <Box maxW="320px">
          <Text fontSize="12px" color="quiet" aria-hidden>
            Goes on into
          </Text>
          <Picker
            label="Goes on into"
            of={[
              { value: NONE, words: "nothing: it ends" },
              ...tunes.map((t) => ({ value: String(t.id), words: t.title })),
            ]}
            now={found ? String(found.id) : NONE}
            onTake={(value) => {
              const taken = tunes.find((t) => String(t.id) === value);
              change(taken ? `Goes on into ${taken.title}` : "Goes on into nothing", (w) =>
                shapeWhole(w, { next: taken?.id }),
              );
            }}
          />
        </Box>
      )}
      {tunes !== null && next !== undefined && !found && (
        <Text fontSize="14px" mt="4px">
          The tune it went on into is no longer on the shelf.
        </Text>
      )}
      {found && <Joins evening={evening} to={found} />}
    </Box>
  );
}

function Joins({ evening, to }: { evening: Evening; to: Follower }) {
  const work = useBench((s) => s.work);
  const derived = useBench((s) => s.derived);
  const bpm = tonightsTempo(work, derived);
  const { parts, roadmap, seconds } = evening;
  const { says, waits } = joinOf(joinedOf(work.tune, derived.analysis), to, bpm, parts);
  return (
    <Box fontSize="14px" mt="6px">
      {says.map((words) => (
        <Text key={words} mt="2px">
          {words}
        </Text>
      ))}
      {waits.map(({ name, bars, why }) => (
        <Text key={name} mt="2px" color="quiet">
          {name} waits {counted(bars, "bar")}: {why}.
        </Text>
      ))}
      <Text mt="2px">
        Both together, {roadmap.times} times through each: {minutes(seconds + roadmap.times * to.seconds)} minutes.{" "}
        <Link href={`/tune/${to.id}?lens=Parts`} style={{ textDecoration: "underline" }}>
          Look at {to.title}
        </Link>
      </Text>
    </Box>
  );
}
