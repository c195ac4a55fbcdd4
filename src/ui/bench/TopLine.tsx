"use client";
import { Box, Button, Flex, Heading, IconButton, Text } from "@chakra-ui/react";
import { Help, Menu, Redo, Undo } from "../icons";
import Link from "next/link";
import { useEffect, useState } from "react";
import type { Saving } from "../saving/saver";
import { ThemeSwitch } from "../ThemeSwitch";
import { type Lens, LENSES } from "./layout";
import { useBench } from "./state";
import { useLens } from "./useLens";

const KEYS: Record<Lens, string> = { Tune: "T", Pulse: "Z", Chords: "G", Harmony: "Y", Feel: "D", Parts: "P" };

/** Words of the sign, by how it stands with what was done. */
const SIGNS: Record<Saving["kind"], string> = {
  saved: "",
  saving: "saving…",
  waiting: "not saved yet",
  refused: "not saved",
  gone: "not saved",
  apart: "to be decided",
};
/** A save that is quicker than this says nothing. Milliseconds. */
const QUIET = 600;

/** Whether everything is saved: silent while it is. */
function SavingSign() {
  const kind = useBench((s) => s.saving.kind);
  const [shown, setShown] = useState<Saving["kind"]>("saved");
  useEffect(() => {
    const timer = setTimeout(() => setShown(kind), kind === "saving" ? QUIET : 0);
    return () => clearTimeout(timer);
  }, [kind]);
  return (
    <Text role="status" fontSize="14px" whiteSpace="nowrap" color={shown === "saving" ? "quiet" : "madder"}>
      {SIGNS[shown]}
    </Text>
  );
}

/** Menu, title, the tune in one sentence, the lenses, undo and redo. */
export function TopLine() {
  const { lens, setLens } = useLens();
  const title = useBench((s) => s.work.tune.title);
  const sentence = useBench((s) => s.derived.analysis.sentence);
  const canUndo = useBench((s) => s.canUndo);
  const canRedo = useBench((s) => s.canRedo);
  const step = useBench((s) => s.step);
  const travel = useBench((s) => s.travel);
  const setHelp = useBench((s) => s.setHelp);
  // Steps back and forward wait until everything is saved.
  const open = useBench((s) => s.saving.kind === "saved" || s.saving.kind === "saving");
  return (
    <Flex
      as="header"
      minH="56px"
      py={{ base: "4px", lg: 0 }}
      flexShrink={0}
      align="center"
      px="12px"
      gap={{ base: "4px 8px", lg: "12px" }}
      wrap={{ base: "wrap", lg: "nowrap" }}
      borderBottom="1px solid"
      borderColor="cord"
    >
      <IconButton asChild variant="ghost" color="ink" aria-label="All tunes" title="All tunes" _hover={{ bg: "linen" }}>
        <Link href="/">
          <Menu />
        </Link>
      </IconButton>
      {/* Beside the title where there is room, under it elsewhere: neither ever goes. */}
      <Flex
        align={{ base: "flex-start", xl: "baseline" }}
        direction={{ base: "column", xl: "row" }}
        gap={{ base: 0, xl: "14px" }}
        minW="0"
        flex="1"
      >
        <Heading
          as="h1"
          fontSize={{ base: "20px", xl: "24px" }}
          lineHeight={{ base: "25px", xl: "32px" }}
          fontWeight="600"
          truncate
          minW="0"
          maxW={{ base: "100%", xl: "26ch" }}
        >
          {title || "Untitled"}
        </Heading>
        <Text
          color="quiet"
          truncate
          minW="0"
          maxW="100%"
          flexShrink={1000}
          fontSize={{ base: "13px", xl: "15px" }}
          lineHeight={{ base: "18px", xl: "24px" }}
          title={sentence}
        >
          {sentence}
        </Text>
      </Flex>
      <Flex
        as="nav"
        aria-label="Views"
        bg="linen"
        borderRadius="8px"
        p="4px"
        gap="2px"
        order={{ base: 3, lg: 0 }}
        w={{ base: "100%", lg: "auto" }}
        justify="space-between"
      >
        {LENSES.map((name) => (
          <Button
            key={name}
            size="sm"
            h={{ base: "44px", lg: "36px" }}
            flex={{ base: "1", lg: "none" }}
            px="14px"
            fontWeight="600"
            variant="plain"
            aria-current={lens === name ? "page" : undefined}
            title={`${name} (${KEYS[name]})`}
            bg={lens === name ? "block" : "transparent"}
            color={lens === name ? "onBlock" : "ink"}
            _hover={{ bg: lens === name ? "block" : "cord" }}
            onClick={() => setLens(name)}
          >
            {name}
          </Button>
        ))}
      </Flex>
      <SavingSign />
      <Box flexShrink={0}>
        <IconButton
          variant="ghost"
          color="ink"
          _hover={{ bg: "linen" }}
          disabled={!canUndo || !open}
          aria-label="Undo"
          title={`Undo: ${step} (Ctrl+Z)`}
          onClick={() => travel("undo")}
        >
          <Undo />
        </IconButton>
        <IconButton
          variant="ghost"
          color="ink"
          _hover={{ bg: "linen" }}
          disabled={!canRedo || !open}
          aria-label="Redo"
          title="Redo (Ctrl+Shift+Z)"
          onClick={() => travel("redo")}
        >
          <Redo />
        </IconButton>
        <IconButton
          variant="ghost"
          color="ink"
          _hover={{ bg: "linen" }}
          aria-label="Keys and help"
          title="Keys and help (?)"
          onClick={() => setHelp(true)}
        >
          <Help />
        </IconButton>
        <ThemeSwitch />
      </Box>
    </Flex>
  );
}
