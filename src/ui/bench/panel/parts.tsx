"use client";
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A key as it stands on the keyboard. */
export const Key = ({ children }: { children: ReactNode }) => (
  <Box
    as="kbd"
    display="inline-block"
    minW="24px"
    px="6px"
    h="24px"
    lineHeight="22px"
    mr="3px"
    textAlign="center"
    fontSize="12px"
    fontFamily="body"
    bg="linen"
    border="1px solid"
    borderColor="cord"
    borderBottomWidth="2px"
    borderRadius="4px"
  >
    {children}
  </Box>
);

/** Head of a panel: what is looked at, one quiet line about it, and its figure when asked. */
export const PanelHead = ({ title, sub, figure }: { title: string; sub?: string; figure?: string }) => (
  <Box mb="10px">
    <Heading as="h2" fontSize="21px" fontWeight="600" lineHeight="27px">
      {title}
    </Heading>
    {sub && (
      <Text color="quiet" fontSize="14px" title={figure}>
        {sub}
      </Text>
    )}
  </Box>
);

/** A small fact: a name over what it is. */
export const Tile = ({ name, what, foreign = false }: { name: string; what: string; foreign?: boolean }) => (
  <Box
    px="10px"
    py="5px"
    minW="58px"
    textAlign="center"
    borderRadius="6px"
    bg={foreign ? "washMadder" : "wash"}
    color={foreign ? "madder" : "woad"}
  >
    <Text fontWeight="700" lineHeight="20px">
      {name}
    </Text>
    <Text fontSize="12px" lineHeight="16px">
      {what}
    </Text>
  </Box>
);

/** A named block of a panel. */
export const Block = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box mt="16px">
    <Text fontSize="13px" color="quiet" mb="5px">
      {title}
    </Text>
    {children}
  </Box>
);

/** Figures and rarer things, folded away until they are asked for. */
export const Fold = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="details" mt="14px" borderTop="1px solid" borderColor="cord" pt="6px">
    <Box as="summary" fontSize="14px" color="quiet" minH="30px" lineHeight="30px" cursor="pointer">
      {title}
    </Box>
    {children}
  </Box>
);

/** How two lines get on, in words, by their clash of 100. */
const CALM: readonly [below: number, words: string][] = [
  [8, "calm throughout"],
  [16, "a little spice"],
  [30, "rough here and there"],
];
export const clashWords = (clash: number): string => CALM.find(([below]) => clash < below)?.[1] ?? "harsh in places";

/** Prices in words, from the nearest; in points of the whole. */
const NEARNESS: readonly [below: number, words: string][] = [
  [0, "better"],
  [0.5, "nearly as good"],
  [2, "a little worse"],
  [6, "worse"],
];
export const nearness = (cost: number): string => NEARNESS.find(([below]) => cost < below)?.[1] ?? "much worse";

/** A choice in a list, with its bar of worth and its key. */
export function ChoiceBar({
  name,
  worth,
  note,
  price,
  keyName,
  chosen,
  onTake,
}: {
  name: string;
  worth: number;
  note: string;
  /** What taking it costs exactly, in points of the whole; told when asked. */
  price?: number;
  keyName?: string | undefined;
  chosen?: boolean;
  onTake: () => void;
}) {
  return (
    <Flex
      as="button"
      w="100%"
      h="38px"
      align="center"
      gap="10px"
      borderTop="1px solid"
      borderColor="cord"
      textAlign="left"
      onClick={onTake}
      _hover={{ bg: "linen" }}
      aria-pressed={chosen}
      title={price === undefined ? undefined : `${price.toFixed(2)} points more in all, by the rules of the style`}
    >
      <Text w="56px" fontWeight="700" fontSize="16px">
        {name}
      </Text>
      <Box flex="1" h="8px" bg="linen" borderRadius="4px">
        <Box h="8px" borderRadius="4px" w={`${Math.max(3, worth * 100)}%`} bg={chosen ? "block" : "woad"} />
      </Box>
      <Text minW="52px" fontSize="13px" color="quiet" textAlign="right" whiteSpace="nowrap">
        {note}
      </Text>
      <Box w="28px">{keyName && <Key>{keyName}</Key>}</Box>
    </Flex>
  );
}

export const FILE_FORMATS = [
  ["musicxml", "MusicXML"],
  ["abc", "ABC"],
  ["mid", "MIDI"],
] as const;

/** A part, or several joined by +, to take away as files. */
export const Downloads = ({ id, part, name }: { id: number; part: string; name: string }) => (
  <Flex gap="14px" fontSize="14px" color="woad" wrap="wrap" display="inline-flex">
    {FILE_FORMATS.map(([format, label]) => (
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
