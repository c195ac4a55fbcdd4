"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { barLabel, type Event, lengthWords, momentWords, type Place } from "../../../core/score";
import { pitchName } from "../../../core/theory";
import { LineButton } from "../../controls/buttons";
import { counted, signed } from "../../signs";
import { keyCap, NOTE_EDITS, type NoteEdit } from "../noteEdits";
import { useBench } from "../state";
import { Block, PanelHead } from "./parts";

const nameOf = ({ pitches }: Event) =>
  pitches.length ? pitches.map((p) => signed(pitchName(p))).join(" and ") : "Rest";

/** What stands on a note besides its pitch and length, in words. */
const signsOf = ({ marks = [], tie, grace, tuplet }: Event): string[] => [
  ...marks,
  ...(tie ? ["tied to the next"] : []),
  ...(grace ? [counted(grace.length, "grace note")] : []),
  ...(tuplet ? [`${tuplet.actual} in the time of ${tuplet.normal}`] : []),
];

/** The chosen note and everything that can be done to it; each button shows its key. */
export function NoteEditor() {
  const spot = useBench((s) => (s.selection?.kind === "event" ? s.selection : undefined));
  const places = useBench((s) => s.derived.analysis.places);
  const place = spot && (places[spot.bar] as Place | undefined);
  const event = place?.bar.events[spot?.event ?? 0];
  if (!place || !event || !spot) {
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
  const at = place.bar.events.slice(0, spot.event).reduce((n, e) => n + e.ticks, place.at);
  const where = `${place.pickup ? "pickup" : `bar ${barLabel(place)}`}, ${momentWords(place, at)}`;
  const signs = signsOf(event);
  return (
    <>
      <PanelHead
        title={`${nameOf(event)}, ${lengthWords(event.ticks)}`}
        sub={signs.length ? `${where} · ${signs.join(", ")}` : where}
      />
      {NOTE_EDITS.map(({ group, edits }) => (
        <Block key={group} title={group}>
          <Flex wrap="wrap" gap="5px">
            {edits.map((edit) => (
              <EditButton key={edit.name} edit={edit} />
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

function EditButton({ edit }: { edit: NoteEdit }) {
  const editNote = useBench((s) => s.editNote);
  const cap = keyCap(edit.keys);
  return (
    <LineButton size="xs" aria-label={edit.name} title={`${edit.name} (${cap})`} onClick={() => editNote(edit)}>
      {edit.glyph ? (
        <Box as="span" fontFamily="Leipzig" fontSize="22px" lineHeight="1" aria-hidden minW="14px">
          {edit.glyph}
        </Box>
      ) : (
        edit.face
      )}
      <Box as="kbd" fontFamily="body" fontSize="12px" color="quiet">
        {cap}
      </Box>
    </LineButton>
  );
}
