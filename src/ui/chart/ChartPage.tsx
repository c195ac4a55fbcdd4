"use client";
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import { parseAsStringLiteral, useQueryState } from "nuqs";
import type { ChartBar, ChartRow } from "../../core/chords";
import { CHORD_NAMES } from "../../core/theory";
import type { ChartPaper } from "../../server/papers";
import { opened, type Sealed } from "../../server/sealed";
import { ChoiceRow } from "../controls/Choice";
import { SolidButton } from "../controls/buttons";
import { rightsLine } from "../rights";
import { signed } from "../signs";
import { WeaveStrip } from "../weave/WeaveStrip";

type Props = { id: number; paper: Sealed<ChartPaper> };

/** Rows of a chart that arrive laid out. */
const MOST_ROWS = 60;

/** The chords of a tune on one page: a row to a phrase, letters, numerals or functions, with the words under a song. */
export function ChartPage({ id, paper: text }: Props) {
  const paper = useMemo(() => opened(text), [text]);
  const tune = paper.heading;
  const [names, setNames] = useQueryState("as", parseAsStringLiteral(CHORD_NAMES).withDefault("letters"));
  // A very long chart is laid out by the browser alone.
  const [mounted, setMounted] = useState(false);
  useEffect(() => setMounted(true), []);
  const shown = mounted || paper.rows.letters.length <= MOST_ROWS;
  const closed = tune.rights === "unknown";
  return (
    <Box data-ready={mounted ? "" : undefined} minH="100%" bg="linen" css={{ "@media print": { background: "white" } }}>
      <Flex
        data-screen
        h="56px"
        px="20px"
        align="center"
        gap="20px"
        bg="fleece"
        borderBottom="1px solid"
        borderColor="cord"
      >
        <Link href={`/tune/${id}?lens=Chords`}>Back to the chords</Link>
        <ChoiceRow label="Written as" of={CHORD_NAMES} now={names} onTake={(n) => void setNames(n)} />
        {!closed && (
          <SolidButton size="md" ml="auto" onClick={() => window.print()}>
            Print
          </SolidButton>
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
        <Head paper={paper} />
        {shown && <Bars rows={paper.rows[names]} />}
        {tune.verses.length > 0 && (
          <Box mt="8mm" fontSize="15px" css={{ columns: 2 }}>
            <Text whiteSpace="pre-line">{tune.verses.join("\n")}</Text>
          </Box>
        )}
        <Text mt="8mm" fontSize="12px">
          {rightsLine(tune)}
        </Text>
      </Box>
    </Box>
  );
}

const Head = ({ paper: { heading: tune, ...paper } }: { paper: ChartPaper }) => (
  <>
    <Flex align="baseline" justify="space-between" gap="12px">
      <Heading as="h1" fontSize="26px" fontWeight="600">
        {tune.title || "Untitled"}
      </Heading>
      <Text>{tune.composer}</Text>
    </Flex>
    <Text mb="3mm">
      {paper.sentence} · {paper.style} style
    </Text>
    <WeaveStrip cells={paper.weave} height={18} marks="letters" />
  </>
);

/** The table of bars: a phrase to a row, a little room before each strain. */
function Bars({ rows }: { rows: readonly ChartRow[] }) {
  const most = Math.max(1, ...rows.map((r) => r.bars.length));
  const size = sizeFor(rows, most);
  return (
    <Box as="table" w="100%" mt="7mm" css={{ borderCollapse: "collapse", tableLayout: "fixed" }}>
      <tbody>
        {rows.map((row, i) => {
          const gap = i > 0 && row.first;
          return (
            <Box as="tr" key={`${row.name}${row.bars[0]?.bar}`} css={{ breakInside: "avoid" }}>
              <Box
                as="th"
                w="44px"
                textAlign="left"
                verticalAlign="top"
                pt={gap ? "28px" : "16px"}
                fontFamily="heading"
                fontSize="20px"
                fontWeight="600"
              >
                {row.name}
              </Box>
              {row.bars.map((bar, k) => (
                <Bar key={bar.bar} bar={bar} first={k === 0} gap={gap} size={size} />
              ))}
              {row.bars.length < most && <td colSpan={most - row.bars.length} />}
            </Box>
          );
        })}
      </tbody>
    </Box>
  );
}

const THIN = "1.5px solid #2A2522";
const THICK = "4px solid #2A2522";
/** How the line after a bar is drawn. */
const CLOSES: ReadonlyMap<string | undefined, string> = new Map([
  ["final", THICK],
  ["double", "4px double #2A2522"],
]);
/** How the line before a bar is drawn; inside a row the bar before has drawn it. */
function opening(bar: ChartBar, first: boolean): string | undefined {
  if (bar.repeatStart) return THICK;
  return first ? THIN : undefined;
}

/** How large chords are written, in pixels; what a letter is wide for its size, and what bars have to share. */
const SIZES = { least: 15, most: 44, letter: 0.58, row: 610 };
/** Height that all rows share, in pixels, and what a row takes for the size of its chords. */
const PAGE = { rows: 800, row: 2.6 };

/** One size for all chords: the largest at which each fits its beats. */
function sizeFor(rows: readonly ChartRow[], most: number): string {
  const fits = rows.flatMap((r) =>
    r.bars.flatMap((b) => {
      const beats = b.cells.reduce((sum, c) => sum + c.beats, 0) || 1;
      return b.cells.map((c) => ((SIZES.row / most) * (c.beats / beats)) / ((c.name.length + 0.2) * SIZES.letter));
    }),
  );
  const high = PAGE.rows / (Math.max(1, rows.length) * PAGE.row);
  return `${Math.max(SIZES.least, Math.min(SIZES.most, high, ...fits))}px`;
}

type BarProps = { bar: ChartBar; first: boolean; gap: boolean; size: string };
/** One bar of the chart: its chords spread by their beats between its bar lines. */
function Bar({ bar, first, gap, size }: BarProps) {
  const close = bar.repeatEnd ? "final" : bar.close;
  const all = bar.cells.reduce((sum, c) => sum + c.beats, 0) || 1;
  return (
    <Box as="td" p="0" pt={gap ? "12px" : "0"} verticalAlign="top">
      <Box
        position="relative"
        minH={`calc(${size} * ${PAGE.row} - 12px)`}
        px={bar.repeatStart ? "14px" : "8px"}
        pt="12px"
        pb="4px"
        borderLeft={opening(bar, first)}
        borderRight={CLOSES.get(close) ?? THIN}
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
            fontSize="12px"
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
              fontSize={size}
              fontWeight="700"
              lineHeight="1.35"
              whiteSpace="nowrap"
            >
              {signed(cell.name)}
            </Text>
          ))}
        </Flex>
        {bar.repeatEnd > 2 && (
          <Text position="absolute" right="12px" bottom="0" fontSize="12px">
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
