"use client";
import { Box, Text } from "@chakra-ui/react";
import { type ChangeEvent, useRef, useState } from "react";
import { locksFromSheet } from "../../../core/chords";
import { lockChords } from "../../../core/ensemble";
import { decodeText, FormatError, readChordPro } from "../../../core/formats";
import { LineButton } from "../../controls/buttons";
import { useBench } from "../state";

const LARGEST = 1_000_000;

/** Takes the chords of a song sheet and lays them on the tune's words. Shown for tunes that have words. */
export function SongSheetBox() {
  const places = useBench((s) => s.derived.analysis.places);
  const change = useBench((s) => s.change);
  const field = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<{ text: string; bad: boolean } | null>(null);
  if (!places.some((p) => p.bar.events.some((e) => e.lyrics?.[0]))) return null;
  const read = async (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    e.target.value = "";
    if (!file) return;
    if (file.size > LARGEST)
      return setSaid({ text: `${file.name} is too large for a song sheet. Bring in one song at a time.`, bad: true });
    try {
      const sheet = readChordPro(decodeText(new Uint8Array(await file.arrayBuffer())));
      const locks = locksFromSheet(sheet, places);
      if (!locks)
        return setSaid({
          text: `The words of ${file.name} are not those of this tune. Nothing was changed.`,
          bad: true,
        });
      change(`Chords of ${file.name.slice(0, 60)}`, (w) => lockChords(w, locks));
      setSaid({
        text: [
          `${sheet.chords.length} chords read; those of the first verse are locked.`,
          ...sheet.remarks.slice(0, 4),
        ].join(" "),
        bad: false,
      });
    } catch (error) {
      setSaid({
        text:
          error instanceof FormatError
            ? `${file.name}, line ${error.spot.line}, column ${error.spot.column}: ${error.message}`
            : `${file.name} could not be read.`,
        bad: true,
      });
    }
  };
  return (
    <Box mt="8px">
      <input
        ref={field}
        type="file"
        hidden
        accept=".cho,.crd,.chopro,.chordpro,.pro,.txt"
        onChange={read}
        aria-label="Song sheet"
      />
      <LineButton onClick={() => field.current?.click()}>Lay a song sheet’s chords on the words</LineButton>
      {said && (
        <Text fontSize="14px" mt="6px" role={said.bad ? "alert" : "status"} color={said.bad ? "madder" : "ink"}>
          {said.text}
        </Text>
      )}
    </Box>
  );
}
