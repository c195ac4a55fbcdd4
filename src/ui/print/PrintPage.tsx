"use client";
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import type { PartPaper } from "../../server/papers";
import { opened, type Sealed } from "../../server/sealed";
import type { CleanSvg } from "../../engraving";
import { engravePages } from "../../workers/engrave";
import { Engraving } from "../engraving/Engraving";
import { wordsOf } from "../answered";
import { LinkButton, SolidButton } from "../controls/buttons";
import { rightsLine } from "../rights";
import { WeaveStrip } from "../weave/WeaveStrip";

type Props = { id: number; paper: Sealed<PartPaper> };

/** A sheet as drawn pages, null while they are made; what fails is told, and can be tried again. */
function usePages({ sheet, starts }: PartPaper) {
  const [pages, setPages] = useState<CleanSvg[] | null>(null);
  const [failure, setFailure] = useState("");
  const [attempt, setAttempt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another attempt is asked for by its number
  useEffect(() => {
    let current = true;
    setFailure("");
    engravePages(sheet, starts).then(
      (drawn) => current && setPages(drawn.pages),
      (error: unknown) => current && setFailure(wordsOf(error)),
    );
    return () => {
      current = false;
    };
  }, [sheet, starts, attempt]);
  return { pages, failure, again: () => setAttempt(attempt + 1) };
}

const CLOSED = "Record the rights of this tune before copies are made: open its Parts and say where it comes from.";

/** A part on A4 paper: title, weave, music, coaching, source and rights. */
export function PrintPage({ id, paper: text }: Props) {
  const paper = useMemo(() => opened(text), [text]);
  const tune = paper.heading;
  const { pages, failure, again } = usePages(paper);
  const closed = tune.rights === "unknown" ? CLOSED : "";
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
      {failure && (
        <Text data-screen role="alert" color="madder" p="16px 28px 0">
          {failure}{" "}
          <LinkButton tone="madder" onClick={again}>
            try again
          </LinkButton>
        </Text>
      )}
      {closed ? (
        <Text p="28px" maxW="52ch">
          {closed}
        </Text>
      ) : (
        (pages ?? [null]).map((svg, i, all) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: pages have no other name
          <Paper key={i} svg={svg} page={i + 1} of={all.length} foot={rightsLine(tune)}>
            {i === 0 && <Head paper={paper} />}
          </Paper>
        ))
      )}
    </Box>
  );
}

const Head = ({ paper: { heading: tune, own, sentence, weave } }: { paper: PartPaper }) => (
  <Box mb="5mm">
    <Flex align="baseline" justify="space-between">
      <Heading as="h1" fontSize="26px" fontWeight="600">
        {tune.title || "Untitled"}
      </Heading>
      <Text>{tune.composer}</Text>
    </Flex>
    <Text mb="3mm">
      {own ? `${own.name} · ${own.instrument}` : "All parts"} · {sentence}
    </Text>
    <WeaveStrip cells={weave} height={18} marks="letters" />
    {own && (
      <Text mt="3mm" fontSize="14px" fontStyle="italic">
        {own.coaching}
      </Text>
    )}
  </Box>
);

type PaperProps = { svg: CleanSvg | null; page: number; of: number; foot: string; children: React.ReactNode };

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
    {svg && <Engraving data-page={page} svg={svg} />}
    <Text position="absolute" bottom="8mm" left="14mm" right="14mm" fontSize="12px">
      {foot}
      {of > 1 ? ` · page ${page} of ${of}` : ""}
    </Text>
  </Box>
);
