"use client";
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useState } from "react";
import { type Derived, sheetOf, type Work } from "../../core/ensemble";
import type { Part } from "../../core/grading";
import { startEngraver } from "../../workers/engrave";
import { SolidButton } from "../controls/buttons";
import { rightsLine } from "../rights";
import { WeaveStrip } from "../weave/WeaveStrip";

type Props = { id: number; work: Work; derived: Derived; part: string };

/** The sheet of one part, or of all, as drawn pages; null while they are made. */
function usePages({ work, derived }: Props, own: Part | undefined): string[] | null {
  const [pages, setPages] = useState<string[] | null>(null);
  useEffect(() => {
    let current = true;
    const sheet = sheetOf(work, derived, ...(own ? [own.id] : []));
    const starts = derived.analysis.form.phrases.map((p) => p.from);
    void startEngraver()
      .pages(sheet, starts)
      .then((drawn) => {
        if (current) setPages(drawn.pages);
      });
    return () => {
      current = false;
    };
  }, [work, derived, own]);
  return pages;
}

/** A part on A4 paper: title, weave, music, coaching, source and rights. */
export function PrintPage(props: Props) {
  const { id, work, derived, part } = props;
  const own = derived.parts.find((p) => p.id === part);
  const pages = usePages(props, own);
  const closed = closedWords(work, part === "all" || own !== undefined);
  return (
    <Box minH="100%" bg="linen" css={{ "@media print": { background: "white" } }}>
      <Flex
        data-screen
        h="56px"
        px="20px"
        align="center"
        gap="12px"
        bg="fleece"
        borderBottom="1px solid"
        borderColor="cord"
      >
        <Link href={`/tune/${id}?lens=Parts`}>Back to the parts</Link>
        <Text color="quiet">{closed ? "" : "Paper size A4. Colours stay on the screen."}</Text>
        {!closed && (
          <SolidButton size="md" ml="auto" disabled={!pages} onClick={() => window.print()}>
            {pages ? "Print" : "Engraving…"}
          </SolidButton>
        )}
      </Flex>
      {closed ? (
        <Text p="28px" maxW="52ch">
          {closed}
        </Text>
      ) : (
        (pages ?? [""]).map((svg, i, all) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: pages have no other name
          <Paper key={i} svg={svg} page={i + 1} of={all.length} foot={rightsLine(work.tune)}>
            {i === 0 && <Head work={work} derived={derived} own={own} />}
          </Paper>
        ))
      )}
    </Box>
  );
}

/** Why nothing can be printed; empty where it can. */
function closedWords({ tune }: Work, known: boolean): string {
  if (tune.rights === "unknown") {
    return "Record the rights of this tune before copies are made: open its Parts and say where it comes from.";
  }
  return known ? "" : "There is no such part.";
}

const Head = ({ work: { tune }, derived, own }: { work: Work; derived: Derived; own: Part | undefined }) => (
  <Box mb="5mm">
    <Flex align="baseline" justify="space-between">
      <Heading as="h1" fontSize="26px" fontWeight="600">
        {tune.title || "Untitled"}
      </Heading>
      <Text>{tune.composer}</Text>
    </Flex>
    <Text mb="3mm">
      {own ? `${own.level} · ${own.instrument}` : "All parts"} · {derived.analysis.sentence}
    </Text>
    <WeaveStrip cells={derived.weave} height={10} />
    {own && (
      <Text mt="3mm" fontSize="14px" fontStyle="italic">
        {own.coaching}
      </Text>
    )}
  </Box>
);

type PaperProps = { svg: string; page: number; of: number; foot: string; children: React.ReactNode };

const Paper = ({ svg, page, of, foot, children }: PaperProps) => (
  <Box
    className="light"
    bg="#FFFFFF"
    color="#2A2522"
    w="210mm"
    h="296mm"
    mx="auto"
    my="18px"
    p="14mm"
    position="relative"
    overflow="hidden"
    css={{ "@media print": { margin: 0, pageBreakAfter: "always" } }}
  >
    {children}
    {/* biome-ignore lint/security/noDangerouslySetInnerHtml: the engraver's own SVG, made from escaped text */}
    <div data-engraving data-page={page} dangerouslySetInnerHTML={{ __html: svg }} />
    <Text position="absolute" bottom="8mm" left="14mm" right="14mm" fontSize="12px">
      {foot}
      {of > 1 ? ` · page ${page} of ${of}` : ""}
    </Text>
  </Box>
);
