"use client";
import { Flex, Heading, IconButton, Text } from "@chakra-ui/react";
import Link from "next/link";
import type { ReactNode } from "react";
import { Menu } from "../icons";
import { ThemeSwitch } from "../ThemeSwitch";

/** The head of a page beside the list: the way back to it, what the page is, and the one thing to do. */
export const PageHead = ({ title, sub, children }: { title: string; sub?: string; children: ReactNode }) => (
  <Flex as="header" h="56px" px="12px" align="center" gap="12px" borderBottom="1px solid" borderColor="cord">
    <IconButton asChild variant="ghost" color="ink" aria-label="All tunes" title="All tunes" _hover={{ bg: "linen" }}>
      <Link href="/">
        <Menu />
      </Link>
    </IconButton>
    <Heading as="h1" fontSize="24px" fontWeight="600" whiteSpace="nowrap">
      {title}
    </Heading>
    <Text color="quiet" truncate display={{ base: "none", md: "block" }}>
      {sub}
    </Text>
    <Flex ml="auto" gap="8px" align="center">
      <ThemeSwitch />
      {children}
    </Flex>
  </Flex>
);
