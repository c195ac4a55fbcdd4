"use client";
import { Box, Button, Flex, NativeSelect, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useState } from "react";
import { analyse } from "../../core/analysis";
import { type Grid, GRIDS } from "../../core/formats";
import type { Intake } from "../../core/intake";
import { addTune } from "../../server/actions";
import { answered, wordsOf } from "../answered";
import { LinkButton } from "../controls/buttons";
import { readAside } from "../../workers/read";
import { Preview } from "../engraving/Preview";

export type Opened = { name: string; bytes: Uint8Array };

const GRID_WORDS: Record<Grid, string> = {
  auto: "what fits each beat",
  file: "none, as the file has it",
  eighths: "eighths",
  sixteenths: "sixteenths",
  triplets: "triplets",
};

/**
 * A score or MIDI file before it goes in: which part or track, how its notes are drawn to the beat, and what it will
 * look like.
 */
export function FilePreview({ opened, onDone }: { opened: Opened; onDone: (id?: number) => void }) {
  const [part, setPart] = useState<number | undefined>(undefined);
  const [grid, setGrid] = useState<Grid>("auto");
  const [read, setRead] = useState<Intake | null>(null);
  const [known, setKnown] = useState<{ id: number; title: string } | null>(null);
  const [failure, setFailure] = useState("");
  const [attempt, setAttempt] = useState(0);

  // biome-ignore lint/correctness/useExhaustiveDependencies: another attempt is asked for by its number
  useEffect(() => {
    let current = true;
    setFailure("");
    readAside(opened.name, opened.bytes, { part, grid }).then(
      (found) => {
        if (current) setRead(found);
      },
      (error: unknown) => {
        if (current) setFailure(wordsOf(error));
      },
    );
    return () => {
      current = false;
    };
  }, [opened, part, grid, attempt]);

  const tune = read?.tunes[0]?.tune;
  const remarks = read?.tunes[0]?.remarks ?? [];
  const named =
    tune && tune.title === "Untitled"
      ? { ...tune, title: opened.name.replace(/\.[a-z]+$/i, "").slice(0, 200) || "Untitled" }
      : tune;
  const take = async (again: boolean) => {
    if (!named) return;
    try {
      const { added, duplicates, refused } = await answered(
        addTune({ tune: named, remarks, step: `Brought in from ${opened.name}`.slice(0, 200), again }),
      );
      if (refused[0]) setFailure(refused[0].message);
      if (added[0]) onDone(added[0].id);
      else setKnown(duplicates[0]?.of ?? null);
    } catch (error) {
      setFailure(`${wordsOf(error)} The file is still here.`);
    }
  };
  const choices =
    read?.tracks?.map((t) => `${t.name} (${t.notes} notes)`) ??
    read?.parts?.map((p) => `${p.name} (${p.notes} notes)`) ??
    [];
  return (
    <Box>
      <Text fontWeight="700">{opened.name}</Text>
      {read?.refused.map((r) => (
        <Text key={r.message} mt="2" color="madder">
          {r.line > 1 || r.column > 1 ? `Line ${r.line}, column ${r.column}: ` : ""}
          {r.message}
        </Text>
      ))}
      {!read && !failure && <Text mt="2">Reading it…</Text>}
      {failure && (
        <Text mt="2" color="madder" role="alert">
          {failure}{" "}
          <LinkButton tone="madder" onClick={() => setAttempt(attempt + 1)}>
            try again
          </LinkButton>
        </Text>
      )}
      {choices.length > 1 && (
        <Box mt="2">
          <label htmlFor="part">
            <Text as="span" fontSize="13px">
              {read?.tracks ? "Track" : "Part"}
            </Text>
          </label>
          <NativeSelect.Root size="sm">
            <NativeSelect.Field
              id="part"
              bg="fleece"
              borderColor="cord"
              value={part ?? read?.chosen ?? 0}
              onChange={(e) => setPart(Number(e.target.value))}
            >
              {choices.map((c, i) => (
                <option key={c} value={i}>
                  {c}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
        </Box>
      )}
      {read?.kind === "midi" && tune && (
        <Box mt="2">
          <label htmlFor="grid">
            <Text as="span" fontSize="13px">
              Draw the notes to
            </Text>
          </label>
          <NativeSelect.Root size="sm">
            <NativeSelect.Field
              id="grid"
              bg="fleece"
              borderColor="cord"
              value={grid}
              onChange={(e) => setGrid(GRIDS.find((g) => g === e.target.value) ?? "auto")}
            >
              {GRIDS.map((g) => (
                <option key={g} value={g}>
                  {GRID_WORDS[g]}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
          <Text fontSize="13px" color="quiet" mt="1">
            {(read.shift ?? 0) > 0.005
              ? `Notes move by ${Math.round((read.shift ?? 0) * 100)} hundredths of a quarter on average.`
              : "The notes stay where the file has them."}
          </Text>
        </Box>
      )}
      {named && (
        <>
          <Text mt="2" color="quiet" fontSize="14px">
            {analyse(named).sentence}
          </Text>
          <Box bg="fleece" borderRadius="4px" px="6px" mt="2" maxH="300px" overflowY="auto">
            <Preview tune={named} rows={6} perRow={2} />
          </Box>
          {remarks.map((r) => (
            <Text key={r.message} fontSize="14px" color={r.left ? "ink" : "quiet"} mt="1">
              {r.message}
            </Text>
          ))}
        </>
      )}
      {known && (
        <Text mt="2">
          You have this one already, note for note:{" "}
          <Link href={`/tune/${known.id}`}>
            <Text as="span" color="woad" textDecoration="underline">
              {known.title}
            </Text>
          </Link>
          .
        </Text>
      )}
      <Flex mt="3" gap="2">
        <Button bg="block" color="onBlock" disabled={!named} onClick={() => void take(known !== null)}>
          {known ? "Bring it in all the same" : "Bring it in"}
        </Button>
        <Button variant="outline" borderColor="quiet" color="ink" onClick={() => onDone()}>
          Leave it
        </Button>
      </Flex>
    </Box>
  );
}
