"use client";
import { Box, Button, Flex, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import { useMemo } from "react";
import { type ChartBar, chordChart } from "../../core/chords";
import { derive, type Work } from "../../core/ensemble";
import { CHORD_NAMES } from "../../core/theory";
import { WeaveStrip } from "../weave/WeaveStrip";

/** The chords of a tune on one page: a row to a phrase, letters, numerals or functions, with the words under a song. */
export function ChartPage({ id, work }: { id: number; work: Work }) {
  const [names, setNames] = useQueryState("as", parseAsStringLiteral(CHORD_NAMES).withDefault("letters"));
  const derived = useMemo(() => derive(work), [work]);
  const { tune } = work;
  const { analysis, plan, weave } = derived;
  const rows = useMemo(() => chordChart(plan, analysis.places, analysis.form.phrases, names), [plan, analysis, names]);
  const closed = tune.rights === "unknown";
  const most = Math.max(1, ...rows.map((r) => r.bars.length));
  return (
    <Box minH="100%" bg="linen" css={{ "@media print": { background: "white" } }}>
      <Flex
        data-screen
        h="56px"
        px="20px"
        align="center"
        gap="8px"
        bg="fleece"
        borderBottom="1px solid"
        borderColor="cord"
      >
        <Link href={`/tune/${id}?lens=Chords`}>Back to the chords</Link>
        <Flex ml="20px" gap="4px" role="group" aria-label="Written as">
          {CHORD_NAMES.map((n) => (
            <Button
              key={n}
              size="sm"
              variant="outline"
              borderColor={names === n ? "ink" : "cord"}
              bg={names === n ? "block" : "transparent"}
              color={names === n ? "onBlock" : "ink"}
              aria-pressed={names === n}
              onClick={() => setNames(n)}
            >
              {n}
            </Button>
          ))}
        </Flex>
        {!closed && (
          <Button ml="auto" bg="block" color="onBlock" onClick={() => window.print()}>
            Print
          </Button>
        )}
      </Flex>
      {closed && (
        <Text data-screen p="16px 28px 0" maxW="72ch">
          Look as long as you like; printing opens once the rights of this tune are recorded under its Parts.
        </Text>
      )}
      <Box
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
        <Flex align="baseline" justify="space-between" gap="12px">
          <Heading as="h1" fontSize="26px" fontWeight="600">
            {tune.title || "Untitled"}
          </Heading>
          <Text>{tune.composer}</Text>
        </Flex>
        <Text mb="3mm">
          {analysis.sentence} · {plan.style} style
        </Text>
        <WeaveStrip cells={weave} height={10} />
        <Box as="table" w="100%" mt="7mm" css={{ borderCollapse: "collapse", tableLayout: "fixed" }}>
          <tbody>
            {rows.map((row, i) => (
              <Box as="tr" key={`${row.name}${row.bars[0]?.bar}`} css={{ breakInside: "avoid" }}>
                <Box
                  as="th"
                  w="44px"
                  textAlign="left"
                  verticalAlign="top"
                  pt={i > 0 && row.name.endsWith("1") ? "28px" : "16px"}
                  fontFamily="heading"
                  fontSize="20px"
                  fontWeight="600"
                >
                  {row.name}
                </Box>
                {row.bars.map((bar, k) => (
                  <Bar key={bar.bar} bar={bar} first={k === 0} gap={i > 0 && row.name.endsWith("1")} />
                ))}
                {row.bars.length < most && <td colSpan={most - row.bars.length} />}
              </Box>
            ))}
          </tbody>
        </Box>
        {tune.verses.length > 0 && (
          <Box mt="8mm" fontSize="15px" css={{ columns: 2 }}>
            <Text whiteSpace="pre-line">{tune.verses.join("\n")}</Text>
          </Box>
        )}
        <Text mt="8mm" fontSize="12px">
          {[
            tune.source,
            tune.rights === "own" ? "our own tune" : tune.rights === "unknown" ? "rights not recorded" : tune.rights,
          ]
            .filter(Boolean)
            .join(" · ")}
        </Text>
      </Box>
    </Box>
  );
}

/** One bar of the chart: its chords spread by their beats between its bar lines. */
function Bar({ bar, first, gap }: { bar: ChartBar; first: boolean; gap: boolean }) {
  const close = bar.repeatEnd ? "final" : bar.close;
  const all = bar.cells.reduce((sum, c) => sum + c.beats, 0) || 1;
  return (
    <Box as="td" p="0" pt={gap ? "12px" : "0"} verticalAlign="top">
      <Box
        position="relative"
        minH="60px"
        px={bar.repeatStart ? "14px" : "8px"}
        pt="12px"
        pb="4px"
        borderLeft={bar.repeatStart ? "4px solid #2A2522" : first ? "1.5px solid #2A2522" : undefined}
        borderRight={
          close === "final" ? "4px solid #2A2522" : close === "double" ? "4px double #2A2522" : "1.5px solid #2A2522"
        }
      >
        {bar.ending && (
          <Box
            position="absolute"
            top="0"
            left="3px"
            right="3px"
            borderTop="1.5px solid"
            borderLeft="1.5px solid"
            px="4px"
            fontSize="11px"
            lineHeight="12px"
          >
            {bar.ending}.
          </Box>
        )}
        {bar.repeatStart && <Dots side="left" />}
        {bar.repeatEnd > 0 && <Dots side="right" />}
        <Flex align="baseline">
          {bar.cells.map((cell) => (
            <Text
              key={cell.at}
              as="span"
              flex={`${cell.beats / all} 1 0`}
              minW="0"
              fontSize={bar.cells.length > 2 ? "17px" : "25px"}
              fontWeight="700"
              lineHeight="34px"
              whiteSpace="nowrap"
            >
              {cell.name.replace(/^([A-G])b/, "$1♭").replace(/^([A-G])#/, "$1♯")}
            </Text>
          ))}
        </Flex>
        {bar.repeatEnd > 2 && (
          <Text position="absolute" right="12px" bottom="0" fontSize="11px">
            {bar.repeatEnd} times
          </Text>
        )}
        {bar.words && (
          <Text fontSize="12.5px" lineHeight="15px" mt="2px">
            {bar.words}
          </Text>
        )}
      </Box>
    </Box>
  );
}

const Dots = ({ side }: { side: "left" | "right" }) => (
  <Box aria-hidden position="absolute" top="16px" {...{ [side]: "4px" }} display="grid" gap="6px">
    <Box w="4px" h="4px" borderRadius="full" bg="#2A2522" />
    <Box w="4px" h="4px" borderRadius="full" bg="#2A2522" />
  </Box>
);
