"use client";
import { Box, Button, Flex, Input, NativeSelect, Text } from "@chakra-ui/react";
import { Printer } from "lucide-react";
import { useState } from "react";
import type { Derived } from "../../../core/ensemble";
import { Rights } from "../../../core/score";
import { RIGHTS_WORDS } from "../../rights";
import { RoleBadge, type Role } from "../../roles";
import type { BenchState } from "../useBench";
import { Block, PanelHead } from "./parts";

const FORMATS = [
  ["musicxml", "MusicXML"],
  ["abc", "ABC"],
  ["mid", "MIDI"],
] as const;
const BADGES: Record<string, (side: string) => Role> = {
  melody: () => "melody",
  moving: (side) => (side === "below" ? "low" : "high"),
  first: () => "note",
};

type Props = { bench: BenchState; derived: Derived; shown: string; onShow: (part: string) => void };

/** Three parts to look at, hear, print and take away. */
export function PartsPanel({ bench, derived, shown, onShow }: Props) {
  const { rights } = bench.work.tune;
  const open = rights !== "unknown";
  return (
    <>
      <PanelHead title="Parts for tonight" sub="for fiddle, played together" />
      {!open && <RightsForm bench={bench} />}
      {derived.parts.map((part) => (
        <Box key={part.staff.id} borderTop="1px solid" borderColor="cord" py="10px">
          <Flex
            as="button"
            align="center"
            gap="10px"
            w="100%"
            textAlign="left"
            aria-pressed={shown === part.staff.id}
            onClick={() => onShow(shown === part.staff.id ? "all" : part.staff.id)}
          >
            <RoleBadge
              role={
                (BADGES[part.staff.id === "second" ? "moving" : part.staff.id] ?? BADGES.melody)?.(
                  part.role === "low harmony" ? "below" : part.role === "high harmony" ? "above" : bench.work.side,
                ) ?? "melody"
              }
              size={22}
            />
            <Text fontFamily="heading" fontSize="18px" fontWeight="600" whiteSpace="nowrap">
              {part.level}
            </Text>
            <Text ml="auto" whiteSpace="nowrap" fontSize="13px" color="woad" textDecoration="underline">
              {shown === part.staff.id ? "show all" : "show alone"}
            </Text>
          </Flex>
          <Text fontSize="13px" color="quiet">
            {part.role} for {part.instrument}
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
          <Copies id={bench.id} part={part.staff.id} open={open} name={part.staff.name} />
        </Box>
      ))}
      <Box borderTop="1px solid" borderColor="cord" py="10px">
        <Text fontFamily="heading" fontSize="18px" fontWeight="600">
          All together
        </Text>
        <Copies id={bench.id} part="all" open={open} name="All parts" />
      </Box>
      {open && (
        <Block title="Rights">
          <Text fontSize="14px">
            {RIGHTS_WORDS[rights]}
            {bench.work.tune.source ? `. ${bench.work.tune.source}` : ""}
          </Text>
          <Button
            variant="plain"
            size="sm"
            px="0"
            color="woad"
            textDecoration="underline"
            onClick={() =>
              bench.change("Rights opened again", (w) => ({ ...w, tune: { ...w.tune, rights: "unknown" } }))
            }
          >
            change
          </Button>
        </Block>
      )}
    </>
  );
}

function Copies({ id, part, open, name }: { id: number; part: string; open: boolean; name: string }) {
  if (!open) return null;
  return (
    <Flex mt="6px" gap="14px" align="center" fontSize="14px" color="woad" wrap="wrap">
      <a
        href={`/tune/${id}/print/${part}`}
        aria-label={`Print ${name}`}
        style={{ display: "inline-flex", gap: 5, alignItems: "center", textDecoration: "underline" }}
      >
        <Printer size={15} />
        Print
      </a>
      {FORMATS.map(([format, label]) => (
        <a
          key={format}
          href={`/tune/${id}/files/${part}.${format}`}
          download
          aria-label={`${label} of ${name}`}
          style={{ textDecoration: "underline" }}
        >
          {label}
        </a>
      ))}
    </Flex>
  );
}

/** Where the tune comes from and whether it may be copied: asked once, before the first copy. */
function RightsForm({ bench }: { bench: BenchState }) {
  const [source, setSource] = useState(bench.work.tune.source);
  const [rights, setRights] = useState("unknown");
  return (
    <Box
      as="form"
      bg="linen"
      borderRadius="6px"
      p="12px"
      mb="12px"
      onSubmit={(e) => {
        e.preventDefault();
        const checked = Rights.safeParse(rights);
        if (checked.success && checked.data !== "unknown")
          bench.change("Rights recorded", (w) => ({
            ...w,
            tune: { ...w.tune, source: source.trim().slice(0, 2000), rights: checked.data },
          }));
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
        <NativeSelect.Root size="sm">
          <NativeSelect.Field
            id="rights"
            bg="fleece"
            borderColor="cord"
            value={rights}
            onChange={(e) => setRights(e.target.value)}
          >
            {Rights.options.map((r) => (
              <option key={r} value={r}>
                {RIGHTS_WORDS[r]}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
      </Box>
      <Button type="submit" size="sm" mt="8px" bg="block" color="onBlock" disabled={rights === "unknown"}>
        Record
      </Button>
    </Box>
  );
}
