"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Suspense, useEffect, useState } from "react";
import type { Derived } from "../../core/ensemble";
import type { Loaded } from "../../server/states";
import type { Drawing } from "../../engraving";
import { Legend } from "../weave/Legend";
import { WeaveStrip } from "../weave/WeaveStrip";
import { Alerts } from "./Alerts";
import { HelpSheet } from "./HelpSheet";
import type { Room } from "./layout";
import { OfferBar } from "./OfferBar";
import { Panel } from "./panel/Panel";
import { Rows } from "./Rows";
import { BenchProvider, useBench } from "./state";
import { TopLine } from "./TopLine";
import { Transport } from "./transport/Transport";
import { EveningMore, EveningTable } from "./evening/EveningTable";
import { useBenchKeys } from "./useBenchKeys";
import { useLens } from "./useLens";
import { useRemembered } from "./useRemembered";
import { useLights } from "./useLights";
import { useWarmUp } from "./useWarmUp";
import { weaveWords } from "./weaveWords";

type Props = {
  loaded: Loaded;
  derived: Derived;
  /** Rows as the server drew them, by the key of their music, and the room they were laid out for. */
  drawings: Record<string, Drawing>;
  room: Room;
};

/** The working page of one tune. */
export function Bench({ loaded, derived, drawings, room }: Props) {
  return (
    <BenchProvider loaded={loaded} derived={derived}>
      <Suspense>
        <Page drawings={drawings} room={room} />
      </Suspense>
    </BenchProvider>
  );
}

function Page({ drawings, room }: Pick<Props, "drawings" | "room">) {
  useBenchKeys();
  useWarmUp();
  useRemembered();
  useLights();
  // The page stands before it can be worked with; it says when, and which saved state it shows.
  const head = useBench((s) => s.head);
  const busy = useBench((s) => s.busy);
  const [ready, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  return (
    <Flex direction="column" h="100dvh" overflow="hidden">
      <TopLine />
      <Weave />
      <Flex flex="1" minH="0" position="relative" css={{ "@media (max-width: 1100px)": { flexDirection: "column" } }}>
        <Box
          as="main"
          flex="1"
          minW="0"
          minH="0"
          overflowY="auto"
          px="20px"
          id="rows"
          data-ready={ready ? "" : undefined}
          data-head={head}
          aria-busy={busy}
          // What scrolls must be reached by Tab: in Tune there is nothing else in it that is.
          tabIndex={0}
          aria-label="The tune, phrase by phrase"
        >
          <Alerts />
          <InParts shows={EveningTable} />
          <Rows drawings={drawings} usual={room} />
          <InParts shows={EveningMore} />
        </Box>
        <Panel />
        <CountNumber />
      </Flex>
      <OfferBar />
      <Transport />
      <HelpSheet />
    </Flex>
  );
}

/** Something that is there where parts are looked at. */
function InParts({ shows: Shows }: { shows: () => React.ReactNode }) {
  const { lens } = useLens();
  return lens === "Parts" ? <Shows /> : null;
}

/** The count before the music, as large as the room allows. */
function CountNumber() {
  const counted = useBench((s) => s.counted);
  if (counted === null) return null;
  return (
    <Flex position="absolute" inset="0" align="center" justify="center" pointerEvents="none" zIndex={10} data-count>
      <Flex
        align="center"
        justify="center"
        w="260px"
        h="260px"
        borderRadius="full"
        bg="fleece"
        border="3px solid"
        borderColor="ink"
        fontFamily="heading"
        fontSize="170px"
        fontWeight="600"
        lineHeight="1"
      >
        {counted}
      </Flex>
    </Flex>
  );
}

/** The woven picture of the whole tune, to go to a bar or loop over some. */
function Weave() {
  const cells = useBench((s) => s.derived.weave);
  const bar = useBench((s) => s.bar);
  const sounding = useBench((s) => s.sounding);
  const loop = useBench((s) => s.loop);
  const pick = useBench((s) => s.pick);
  return (
    <Flex
      as="section"
      aria-label="The weave"
      h="58px"
      flexShrink={0}
      bg="linen"
      borderBottom="1px solid"
      borderColor="cord"
      align="center"
      px="20px"
      gap="20px"
    >
      <Box w="128px" flexShrink={0} display={{ base: "none", md: "block" }}>
        <Text fontWeight="700" lineHeight="18px">
          The weave
        </Text>
        <Text fontSize="13px" color="quiet" lineHeight="16px">
          {weaveWords(cells)}
        </Text>
      </Box>
      <Box flex="1" minW="0">
        <WeaveStrip
          cells={cells}
          height={44}
          marks={cells.length <= 40 ? "numbers" : undefined}
          current={bar}
          sounding={sounding}
          loop={loop}
          onPick={pick}
        />
      </Box>
      <Legend />
    </Flex>
  );
}
