"use client";
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";
import { parseAsString, useQueryState } from "nuqs";
import { useMemo } from "react";
import { playedOn, readWork, type Work } from "../../core/ensemble";
import { CELLS, CLASS_STRING, cellFits, drillLadder, foundCells } from "../../core/feel";
import { FIDDLE } from "../../core/instruments";
import { places } from "../../core/score";
import { parsePitch, type Pitch, pitchName } from "../../core/theory";
import { LineButton, SolidButton } from "../controls/buttons";
import { Picker } from "../controls/Choice";
import { Preview } from "../engraving/Preview";
import { Play, Stop } from "../icons";
import { rightsLine } from "../rights";
import { usePreviewPlayer } from "../sound/usePreviewPlayer";

/** Rows of a rung that are shown. */
const ROWS = 8;

/** Open strings of those who play, the one that most of them have first; of fiddles where nobody has strings. */
function classStrings(work: Work): { name: string; pitch: Pitch }[] {
  const on = work.players.map((p) => playedOn(work, p.instrument)).filter((i) => i.strings.length > 0);
  const all = (on.length > 0 ? on : [FIDDLE]).flatMap((i) => i.strings).map((s) => s.open);
  const names = [pitchName(CLASS_STRING), ...all.map(pitchName)].filter((n) => all.some((p) => pitchName(p) === n));
  return [...new Set(names)].map((name) => ({ name, pitch: parsePitch(name) }));
}

/** The drill ladder of one rhythm, rung by rung: to hear, to play along with, and on paper. */
export function DrillPage({ id, work }: { id: number; work: string }) {
  const read = useMemo(() => readWork(JSON.parse(work)), [work]);
  const { tune } = read;
  const from = useMemo(() => places(tune), [tune]);
  const fitting = useMemo(() => CELLS.filter((c) => from[0] && cellFits(c, from[0])), [from]);
  const [name, setName] = useQueryState("cell", parseAsString);
  const cell = fitting.find((c) => c.name === name) ?? foundCells(from)[0] ?? fitting[0];
  const [asked, setString] = useQueryState("string", parseAsString);
  const strings = useMemo(() => classStrings(read), [read]);
  const open = strings.find((s) => s.name === asked) ?? strings[0];
  const rungs = useMemo(() => (cell ? drillLadder(tune, cell, open?.pitch ?? CLASS_STRING) : []), [tune, cell, open]);
  const player = usePreviewPlayer();
  const closed = tune.rights === "unknown";
  return (
    <Box minH="100%" bg="linen" css={{ "@media print": { background: "white" } }}>
      <Flex
        data-screen
        minH="56px"
        px="20px"
        py="6px"
        align="center"
        gap="12px"
        wrap="wrap"
        bg="fleece"
        borderBottom="1px solid"
        borderColor="cord"
      >
        <Link href={`/tune/${id}?lens=Pulse`}>Back to the pulse</Link>
        <Picker
          label="Rhythm"
          width="220px"
          of={fitting.map((c) => c.name)}
          now={cell?.name ?? ""}
          onTake={(n) => void setName(n)}
        />
        <Picker
          label="Open string"
          width="150px"
          of={strings.map((s) => ({ value: s.name, words: `open ${s.name}` }))}
          now={open?.name ?? ""}
          onTake={(n) => void setString(n)}
        />
        <Text color="quiet">{cell ? `“${cell.syllables.join(" ")}” teaches ${cell.teaches}` : ""}</Text>
        {!closed && (
          <SolidButton size="md" ml="auto" onClick={() => window.print()}>
            Print
          </SolidButton>
        )}
      </Flex>
      {player.failure && (
        <Text role="alert" color="madder" p="12px 28px 0">
          No sound: {player.failure}
        </Text>
      )}
      <Box
        as="main"
        className="light"
        bg="#FFFFFF"
        color="#2A2522"
        w="210mm"
        maxW="100%"
        minH="296mm"
        mx="auto"
        my="18px"
        p="14mm"
        css={{ "@media print": { margin: 0, ...(closed ? { display: "none" } : {}) } }}
      >
        <Heading as="h1" fontSize="26px" fontWeight="600">
          {tune.title || "Untitled"}
        </Heading>
        <Text mb="6mm">{cell ? `${cell.name}, rung by rung` : "No rhythm cell fits this tune’s metre."}</Text>
        {rungs.map((rung, i) => (
          <Box key={rung.name} mb="7mm" css={{ breakInside: "avoid" }}>
            <Flex align="center" gap="10px" mb="2mm">
              <Heading as="h2" fontSize="18px" fontWeight="600">
                {i + 1}. {rung.name}
              </Heading>
              <LineButton
                data-screen
                size="xs"
                aria-label={player.playing === rung.name ? `Stop ${rung.name}` : `Hear ${rung.name}`}
                onClick={() => (player.playing === rung.name ? player.stop() : player.play(rung.name, rung.tune))}
              >
                {player.playing === rung.name ? <Stop size={13} /> : <Play size={13} />}
              </LineButton>
            </Flex>
            <Text fontStyle="italic" mb="1mm">
              {rung.says}
            </Text>
            <Preview tune={rung.tune} rows={ROWS} />
          </Box>
        ))}
        <Text mt="6mm" fontSize="12px">
          {rightsLine(tune)}
        </Text>
      </Box>
    </Box>
  );
}
