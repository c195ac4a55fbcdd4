"use client";
import { Box, Button, Flex, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import { derive, sheetOf, type Work } from "../../core/ensemble";
import { startEngraver } from "../../workers/engrave";
import { WeaveStrip } from "../weave/WeaveStrip";

/** A part on A4 paper: title, weave, music, coaching, source and rights. */
export function PrintPage({ id, work, part }: { id: number; work: Work; part: string }) {
  const derived = useMemo(() => derive(work), [work]);
  const [pages, setPages] = useState<string[] | null>(null);
  const own = derived.parts.find((p) => p.staff.id === part);
  useEffect(() => {
    let current = true;
    void startEngraver()
      .pages(
        sheetOf(work, derived, ...(own ? [own.staff.id] : [])),
        derived.analysis.form.phrases.map((p) => p.from),
      )
      .then((drawn) => {
        if (current) setPages(drawn.pages);
      });
    return () => {
      current = false;
    };
  }, [work, derived, own]);
  const { tune } = work;
  const closed = tune.rights === "unknown" || (part !== "all" && !own);
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
          <Button ml="auto" bg="block" color="onBlock" disabled={!pages} onClick={() => window.print()}>
            {pages ? "Print" : "Engraving…"}
          </Button>
        )}
      </Flex>
      {closed ? (
        <Text p="28px" maxW="52ch">
          {tune.rights === "unknown"
            ? "Record the rights of this tune before copies are made: open its Parts and say where it comes from."
            : "There is no such part."}
        </Text>
      ) : (
        (pages ?? [""]).map((svg, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: pages have no other name
          <Box
            key={i}
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
            {i === 0 && (
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
            )}
            {/* biome-ignore lint/security/noDangerouslySetInnerHtml: the engraver's own SVG, made from escaped text */}
            <div data-engraving data-page={i + 1} dangerouslySetInnerHTML={{ __html: svg }} />
            <Text position="absolute" bottom="8mm" left="14mm" right="14mm" fontSize="12px">
              {[tune.source, tune.rights === "own" ? "our own tune" : tune.rights].filter(Boolean).join(" · ")}
              {pages && pages.length > 1 ? ` · page ${i + 1} of ${pages.length}` : ""}
            </Text>
          </Box>
        ))
      )}
    </Box>
  );
}
