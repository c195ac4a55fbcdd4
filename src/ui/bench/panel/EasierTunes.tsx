"use client";
import { Box, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useState } from "react";
import type { Easier } from "../../../server/groups";
import { listEasier } from "../../../server/actions";
import { LinkButton } from "../../controls/buttons";
import { listed } from "../../signs";
import { useDeed } from "../../useDeed";
import { useBench } from "../state";

/** Easier tunes of the shelf, where tonight's is too much: how much easier, and what makes the difference. */
export function EasierTunes() {
  const id = useBench((s) => s.id);
  const [tunes, setTunes] = useState<Easier[] | null>(null);
  const { run, failure } = useDeed();
  return (
    <Box mt="8px" fontSize="14px">
      {tunes === null && (
        <LinkButton onClick={() => void run(() => listEasier(id), setTunes)}>an easier tune for tonight</LinkButton>
      )}
      {failure}
      {tunes?.length === 0 && <Text color="quiet">No tune of the shelf is clearly easier than this one.</Text>}
      {tunes?.map((t) => (
        <Text key={t.id} mb="3px">
          <Link href={`/tune/${t.id}?lens=Parts`} style={{ textDecoration: "underline" }}>
            {t.title}
          </Link>
          , {t.difficulty} against {t.instead}: less of {listed(t.because)}.
        </Text>
      ))}
    </Box>
  );
}
