"use client";
import { Box, Button, Flex, Heading, IconButton, Text } from "@chakra-ui/react";
import { CircleHelp, Menu, Redo2, Undo2 } from "lucide-react";
import Link from "next/link";
import { ThemeSwitch } from "../ThemeSwitch";
import { type Lens, LENSES } from "./layout";
import { useBench } from "./state";
import { useLens } from "./useLens";

const KEYS: Record<Lens, string> = { Tune: "T", Chords: "G", Harmony: "Y", Parts: "P" };

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
  return (
    <Flex
      as="header"
      minH="56px"
      py={{ base: "4px", md: 0 }}
      flexShrink={0}
      align="center"
      px="12px"
      gap={{ base: "4px 8px", md: "12px" }}
      wrap={{ base: "wrap", md: "nowrap" }}
      borderBottom="1px solid"
      borderColor="cord"
    >
      <IconButton asChild variant="ghost" color="ink" aria-label="All tunes" title="All tunes" _hover={{ bg: "linen" }}>
        <Link href="/">
          <Menu />
        </Link>
      </IconButton>
      <Flex align="baseline" gap="14px" minW="0" flex="1">
        <Heading as="h1" fontSize="24px" fontWeight="600" truncate flexShrink={{ base: 1, md: 0 }} maxW="26ch">
          {title || "Untitled"}
        </Heading>
        <Text color="quiet" truncate display={{ base: "none", md: "block" }}>
          {sentence}
        </Text>
      </Flex>
      <Flex
        as="nav"
        aria-label="Lenses"
        bg="linen"
        borderRadius="8px"
        p="4px"
        gap="2px"
        order={{ base: 3, md: 0 }}
        w={{ base: "100%", md: "auto" }}
        justify="space-between"
      >
        {LENSES.map((name) => (
          <Button
            key={name}
            size="sm"
            h="36px"
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
      <Box flexShrink={0}>
        <IconButton
          variant="ghost"
          color="ink"
          _hover={{ bg: "linen" }}
          disabled={!canUndo}
          aria-label="Undo"
          title={`Undo: ${step} (Ctrl+Z)`}
          onClick={() => travel("undo")}
        >
          <Undo2 />
        </IconButton>
        <IconButton
          variant="ghost"
          color="ink"
          _hover={{ bg: "linen" }}
          disabled={!canRedo}
          aria-label="Redo"
          title="Redo (Ctrl+Shift+Z)"
          onClick={() => travel("redo")}
        >
          <Redo2 />
        </IconButton>
        <IconButton
          variant="ghost"
          color="ink"
          _hover={{ bg: "linen" }}
          aria-label="Keys and help"
          title="Keys and help (?)"
          onClick={() => setHelp(true)}
        >
          <CircleHelp />
        </IconButton>
        <ThemeSwitch />
      </Box>
    </Flex>
  );
}
