"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { withTune } from "../../../../core/ensemble";
import { safeGhosts, withGhosts } from "../../../../core/feel";
import { barLabelAt } from "../../../../core/score";
import { pitchName } from "../../../../core/theory";
import { LineButton } from "../../../controls/buttons";
import { counted } from "../../../signs";
import { useBench } from "../../state";
import { Fold } from "../parts";

/** Reasons that are listed before the rest is only counted. */
const LISTED = 6;

/** Notes that may be ghosted, each with why, and a press that ghosts them all or gives them back. */
export function Ghosts() {
  const places = useBench((s) => s.derived.analysis.places);
  const change = useBench((s) => s.change);
  const setBar = useBench((s) => s.setBar);
  const safe = useMemo(() => safeGhosts(places), [places]);
  const count = useMemo(
    () => places.reduce((n, p) => n + p.bar.events.filter((e) => e.marks?.includes("ghost")).length, 0),
    [places],
  );
  const mark = (on: boolean) =>
    change(on ? "Safe notes ghosted" : "No ghost notes", (w) => {
      const named = new Set(safe.map((g) => `${g.bar}.${g.event}`));
      return withTune(
        w,
        withGhosts(w.tune, (bar, event) => on && named.has(`${bar}.${event}`)),
      );
    });
  const nameAt = (bar: number, event: number) => {
    const top = places[bar]?.bar.events[event]?.pitches.at(-1);
    return top ? pitchName(top) : "";
  };
  return (
    <Fold title="Ghost notes and anticipations">
      <Text fontSize="14px" mb="6px">
        {counted(safe.length, "note is", "notes are")} safe to ghost.{" "}
        {count > 0 ? `${counted(count, "is", "are")} ghosted now.` : ""}
      </Text>
      {safe.slice(0, LISTED).map(({ bar, event, why }) => (
        <Box
          as="button"
          key={`${bar}.${event}`}
          display="block"
          w="100%"
          minH="26px"
          textAlign="left"
          fontSize="13px"
          _hover={{ bg: "linen" }}
          onClick={() => setBar(bar)}
        >
          <b>{nameAt(bar, event)}</b> in bar {barLabelAt(places, bar)}: {why}
        </Box>
      ))}
      {safe.length > LISTED && (
        <Text fontSize="13px" color="quiet">
          and {safe.length - LISTED} more
        </Text>
      )}
      <Flex gap="6px" mt="6px">
        <LineButton size="xs" disabled={safe.length === 0} onClick={() => mark(true)}>
          ghost them
        </LineButton>
        <LineButton size="xs" disabled={count === 0} onClick={() => mark(false)}>
          ghost none
        </LineButton>
      </Flex>
      <Text fontSize="13px" color="quiet" mt="8px">
        One note by itself: in Tune, choose it and press O for a ghost, R to bring it in an eighth early.
      </Text>
    </Fold>
  );
}
