"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { parseAsString, useQueryState } from "nuqs";
import { useState } from "react";
import {
  catalogueWith,
  draftOf,
  FAMILIES,
  type Instrument,
  instrument,
  INSTRUMENTS,
  type OwnDraft,
  type OwnFault,
} from "../../core/instruments";
import { takeInstrumentAway, writeInstrument } from "../../server/actions";
import { LineButton, LinkButton, SolidButton } from "../controls/buttons";
import { PageHead } from "../controls/PageHead";
import { useDeed } from "../useDeed";
import { FAMILY_WORDS } from "./families";
import { InstrumentForm } from "./InstrumentForm";
import { InstrumentView } from "./InstrumentView";

/** What is being written: an instrument of one's own from this draft, in the place of that one. */
type Writing = { title: string; draft: OwnDraft; before: string | null };

/** The catalogue, and a teacher's own instruments in it: looked at, changed, added, taken away. */
export function InstrumentsPage({ own: first }: { own: Instrument[] }) {
  const [own, setOwn] = useState(first);
  const [name, setName] = useQueryState("on", parseAsString.withDefault("fiddle"));
  const [writing, setWriting] = useState<Writing | null>(null);
  const [faults, setFaults] = useState<readonly OwnFault[]>([]);
  const [busy, setBusy] = useState(false);
  const { run, failure } = useDeed();
  const all = catalogueWith(own);
  const on = instrument(name, own) ?? (all[0] as Instrument);
  const isOwn = own.includes(on);
  const standsFor = isOwn && INSTRUMENTS.some((i) => i.name === on.name);
  const begin = (title: string, draft: OwnDraft, before: string | null) => {
    setFaults([]);
    setWriting({ title, draft, before });
  };
  const keep = async (draft: OwnDraft) => {
    setBusy(true);
    await run(
      () => writeInstrument({ draft, before: writing?.before ?? null }),
      (value) => {
        if ("faults" in value) return setFaults(value.faults);
        setOwn(value.kept);
        setWriting(null);
        void setName(draft.name.replace(/\s+/g, " ").trim());
      },
    );
    setBusy(false);
  };
  const takeAway = () => run(() => takeInstrumentAway(on.name), setOwn);
  const copy = () => begin(`One like the ${on.name}`, { ...draftOf(on), name: "", source: "" }, null);
  return (
    <Box minH="100%" bg="fleece">
      <PageHead title="Instruments" sub="what everyone in the room plays, and how far each level goes on it">
        <SolidButton onClick={copy}>Add an instrument</SolidButton>
      </PageHead>
      <Flex maxW="1120px" mx="auto" direction={{ base: "column", md: "row" }} align="flex-start">
        <Names all={all} own={own} now={on.name} onTake={(n) => void setName(n)} onLook={() => setWriting(null)} />
        <Box as="main" flex="1" minW="0" w="100%" px="28px" py="22px">
          {failure}
          {writing ? (
            <InstrumentForm
              key={writing.title}
              title={writing.title}
              from={writing.draft}
              busy={busy}
              faults={faults}
              onKeep={(draft) => void keep(draft)}
              onLeave={() => setWriting(null)}
            />
          ) : (
            <>
              <InstrumentView on={on} />
              <Flex gap="8px 14px" mt="18px" wrap="wrap" align="center">
                <LineButton
                  onClick={() => begin(`The ${on.name}, as you have it`, draftOf(on), isOwn ? on.name : null)}
                >
                  Change its numbers
                </LineButton>
                <LineButton onClick={copy}>Add one like it</LineButton>
                {isOwn && (
                  <LinkButton tone="madder" onClick={() => void takeAway()}>
                    {standsFor ? "put it back as the catalogue has it" : "take it away"}
                  </LinkButton>
                )}
              </Flex>
              <Text fontSize="13px" color="quiet" mt="10px">
                What you change or add is yours: it is kept through updates, and every tune is worked out with it.
              </Text>
            </>
          )}
        </Box>
      </Flex>
    </Box>
  );
}

type NamesProps = {
  all: readonly Instrument[];
  own: readonly Instrument[];
  now: string;
  onTake: (name: string) => void;
  onLook: () => void;
};

/** Every instrument by its family; one's own are marked. */
function Names({ all, own, now, onTake, onLook }: NamesProps) {
  return (
    <Box
      as="nav"
      aria-label="Instruments"
      w={{ base: "100%", md: "232px" }}
      flexShrink={0}
      p="18px 12px 24px 24px"
      css={{ columnWidth: { base: "150px", md: "auto" } }}
    >
      {FAMILIES.map((family) => (
        <Box key={family} mb="12px">
          <Text fontSize="13px" color="quiet" mb="2px">
            {FAMILY_WORDS[family]}
          </Text>
          {all
            .filter((i) => i.family === family)
            .map((i) => (
              <Box
                as="button"
                key={i.name}
                display="block"
                w="100%"
                textAlign="left"
                px="8px"
                minH="26px"
                borderRadius="4px"
                cursor="pointer"
                bg={i.name === now ? "block" : "transparent"}
                color={i.name === now ? "onBlock" : "ink"}
                _hover={i.name === now ? {} : { bg: "linen" }}
                aria-current={i.name === now}
                onClick={() => {
                  onLook();
                  onTake(i.name);
                }}
              >
                {i.name}
                {own.includes(i) && " · yours"}
              </Box>
            ))}
        </Box>
      ))}
    </Box>
  );
}
