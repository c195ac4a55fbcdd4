"use client";
import { Box, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { type GroupPart, type OneWriting, setWriting } from "../../../core/ensemble";
import { writingsFor } from "../../../workers/derive";
import { ChoiceRow } from "../../controls/Choice";
import { counted } from "../../signs";
import { useBench } from "../state";

const WORDS = { usual: "as planned", plainer: "plainer", another: "another" } as const;

/** The same role written otherwise: with less in it, or with other notes, each within the same limits. */
export function Writings({ part }: { part: GroupPart }) {
  const work = useBench((s) => s.work);
  const change = useBench((s) => s.change);
  const [all, setAll] = useState<OneWriting[]>([]);
  const { name } = part.learner;
  const now = work.evening?.writings?.find((w) => w.name === name)?.writing ?? "usual";
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked up anew where the part is another
  useEffect(() => {
    let gone = false;
    writingsFor(work, name).then(
      (found) => !gone && setAll(found),
      () => !gone && setAll([]),
    );
    return () => {
      gone = true;
    };
  }, [part.id, part.role, part.notes]);
  const known = all.map((w) => w.writing);
  if (known.length < 2) return null;
  return (
    <Box mt="8px">
      <ChoiceRow
        label={`How ${name}’s part is written`}
        of={known}
        now={known.includes(now) ? now : "usual"}
        onTake={(writing) => change(`${name}: ${WORDS[writing]}`, (w) => setWriting(w, name, writing))}
        words={(writing) => WORDS[writing]}
      />
      <Text fontSize="13px" color="quiet" mt="3px">
        {all
          .map((w) => `${WORDS[w.writing]}: ${counted(w.notes, "note")}, ${Math.round(w.difficulty)} of 100`)
          .join("; ")}
        .
      </Text>
    </Box>
  );
}
