"use client";
import { Box, Button, Flex, Text } from "@chakra-ui/react";
import type { Derived } from "../../../core/ensemble";
import { beatAt, beatsWords, lengthWords, type Place } from "../../../core/score";
import { pitchName } from "../../../core/theory";
import { keyCap, NOTE_EDITS, type NoteEdit } from "../noteEdits";
import { Block, PanelHead } from "./parts";

type Props = { derived: Derived; selection: { bar: number; event: number } | null; onEdit: (edit: NoteEdit) => void };

const sign = (name: string) => name.replace("b", "♭").replace("#", "♯");

/** The chosen note and everything that can be done to it; each button shows its key. */
export function NoteEditor({ derived, selection, onEdit }: Props) {
  const place = selection ? (derived.analysis.places[selection.bar] as Place | undefined) : undefined;
  const event = selection ? place?.bar.events[selection.event] : undefined;
  if (!place || !event || !selection) {
    return (
      <>
        <PanelHead title="Correct a note" />
        <Text>
          Click a note, or press Enter to take the first one of the bar. Then drag it, or use the keys: arrows move it,
          numbers give its length.
        </Text>
      </>
    );
  }
  const at = place.bar.events.slice(0, selection.event).reduce((n, e) => n + e.ticks, place.at);
  const name = event.pitches.length ? event.pitches.map((p) => sign(pitchName(p))).join(" and ") : "Rest";
  const signs = [
    ...(event.marks ?? []),
    ...(event.tie ? ["tied to the next"] : []),
    ...(event.grace ? [event.grace.length === 1 ? "a grace note" : `${event.grace.length} grace notes`] : []),
    ...(event.tuplet ? [`${event.tuplet.actual} in the time of ${event.tuplet.normal}`] : []),
  ];
  return (
    <>
      <PanelHead
        title={`${name}, ${lengthWords(event.ticks)}`}
        sub={`${place.pickup ? "pickup" : `bar ${place.number}`}, beat ${beatsWords(beatAt(place, at))}${signs.length ? ` · ${signs.join(", ")}` : ""}`}
      />
      {NOTE_EDITS.map(({ group, edits }) => (
        <Block key={group} title={group}>
          <Flex wrap="wrap" gap="5px">
            {edits.map((edit) => (
              <Button
                key={edit.name}
                size="xs"
                h="30px"
                px="8px"
                variant="outline"
                borderColor="cord"
                color="ink"
                bg="transparent"
                _hover={{ bg: "linen" }}
                aria-label={edit.name}
                title={`${edit.name} (${keyCap(edit.keys)})`}
                onClick={() => onEdit(edit)}
              >
                {edit.face}
                <Box as="kbd" fontFamily="body" fontSize="12px" color="quiet" ml="3px">
                  {keyCap(edit.keys)}
                </Box>
              </Button>
            ))}
          </Flex>
        </Block>
      ))}
      <Text mt="14px" fontSize="13px" color="quiet">
        ← → go to the next note. Drag a note up or down to move it by steps.
      </Text>
    </>
  );
}
