"use client";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Part } from "../../../core/grading";
import { Rights } from "../../../core/score";
import { LinkButton, SolidButton } from "../../controls/buttons";
import { Picker } from "../../controls/Choice";
import { RIGHTS_WORDS } from "../../rights";
import { RoleBadge } from "../../roles";
import { useBench } from "../state";
import { Copies } from "./Copies";
import { GroupPicker } from "./GroupPicker";
import { LadderFold } from "./LadderFold";
import { Block, PanelHead } from "./parts";

/** Instruments of the parts in words: "fiddle", or "fiddle, viola". */
const instrumentsOf = (parts: readonly Part[]) => [...new Set(parts.map((p) => p.instrument))].join(", ");

/** Everyone's part to look at, hear, print and take away. */
export function PartsPanel() {
  const parts = useBench((s) => s.derived.parts);
  const open = useBench((s) => s.work.tune.rights !== "unknown");
  return (
    <>
      <GroupPicker />
      <PanelHead title="Lines" sub={`for ${instrumentsOf(parts)}, played together`} />
      {!open && <RightsForm />}
      {parts.map((part) => (
        <PartCard key={part.id} part={part} open={open} />
      ))}
      <LadderFold />
      <Box borderTop="1px solid" borderColor="cord" py="10px">
        <Text fontFamily="heading" fontSize="18px" fontWeight="600">
          All together
        </Text>
        <Copies part="all" open={open} name="All parts" />
      </Box>
      {open && <RightsRecorded />}
    </>
  );
}

function PartCard({ part, open }: { part: Part; open: boolean }) {
  const alone = useBench((s) => s.shown === part.id);
  const setShown = useBench((s) => s.setShown);
  return (
    <Box borderTop="1px solid" borderColor="cord" py="10px">
      <Flex
        as="button"
        align="center"
        gap="10px"
        w="100%"
        textAlign="left"
        aria-pressed={alone}
        onClick={() => setShown(alone ? "all" : part.id)}
      >
        <RoleBadge voice={part.role} size={22} />
        <Text fontFamily="heading" fontSize="18px" fontWeight="600" whiteSpace="nowrap">
          {part.name}
        </Text>
        <Text ml="auto" whiteSpace="nowrap" fontSize="13px" color="woad" textDecoration="underline">
          {alone ? "show all" : "show alone"}
        </Text>
      </Flex>
      <Text fontSize="13px" color="quiet">
        for {part.instrument}
      </Text>
      <Text fontSize="14px" mt="3px">
        {part.coaching}
      </Text>
      {part.leftOut.map((why) => (
        <Text key={why} fontSize="13px" color="quiet" mt="2px">
          Left out: {why[0]?.toLowerCase()}
          {why.slice(1)}
        </Text>
      ))}
      <Copies part={part.id} open={open} name={part.name} />
    </Box>
  );
}

function RightsRecorded() {
  const rights = useBench((s) => s.work.tune.rights);
  const source = useBench((s) => s.work.tune.source);
  const change = useBench((s) => s.change);
  const reopen = () =>
    change("Rights opened again", (w) => ({ ...w, tune: { ...w.tune, rights: "unknown" as const } }));
  return (
    <Block title="Rights">
      <Text fontSize="14px">
        {RIGHTS_WORDS[rights]}
        {source ? `. ${source}` : ""}
      </Text>
      <LinkButton onClick={reopen}>change</LinkButton>
    </Block>
  );
}

/** Where the tune comes from and whether it may be copied: asked once, before the first copy. */
function RightsForm() {
  const known = useBench((s) => s.work.tune.source);
  const change = useBench((s) => s.change);
  const [source, setSource] = useState(known);
  const [rights, setRights] = useState("unknown");
  const record = () => {
    const checked = Rights.safeParse(rights);
    if (!checked.success || checked.data === "unknown") return;
    const recorded = { source: source.trim().slice(0, 2000), rights: checked.data };
    change("Rights recorded", (w) => ({ ...w, tune: { ...w.tune, ...recorded } }));
  };
  return (
    <Box
      as="form"
      bg="linen"
      borderRadius="6px"
      p="12px"
      mb="12px"
      onSubmit={(e) => {
        e.preventDefault();
        record();
      }}
    >
      <Text fontWeight="700" mb="2px">
        Before copies are made
      </Text>
      <Text fontSize="13px" color="quiet" mb="8px">
        Written tunes may be in copyright. Say where this one comes from; then printing and files open.
      </Text>
      <label htmlFor="source">
        <Text as="span" fontSize="13px">
          Source
        </Text>
      </label>
      <Input
        id="source"
        size="sm"
        bg="fleece"
        borderColor="cord"
        value={source}
        maxLength={2000}
        onChange={(e) => setSource(e.target.value)}
        placeholder="book, player, recording"
      />
      <Box mt="6px">
        <label htmlFor="rights">
          <Text as="span" fontSize="13px">
            Rights
          </Text>
        </label>
        <Picker
          id="rights"
          label="Rights"
          of={Rights.options.map((value) => ({ value, words: RIGHTS_WORDS[value] }))}
          now={rights}
          onTake={setRights}
        />
      </Box>
      <SolidButton type="submit" mt="8px" disabled={rights === "unknown"}>
        Record
      </SolidButton>
    </Box>
  );
}
