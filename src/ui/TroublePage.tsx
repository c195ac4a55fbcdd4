"use client";
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { LinkButton } from "./controls/buttons";

type Props = { title: string; path?: string; what: string; remedy: string };

/** A plain page that says what is in trouble, where, and what to do. Its links load the page whole. */
export const TroublePage = ({ title, path, what, remedy }: Props) => (
  <Box as="main" maxW="640px" mx="auto" pt="18vh" px="6">
    <Heading as="h1" fontSize="26px" mb="3">
      {title}
    </Heading>
    {path && (
      <Text fontFamily="ui-monospace, monospace" fontSize="15px" mb="2" wordBreak="break-all">
        {path}
      </Text>
    )}
    <Text mb="3">{what.charAt(0).toUpperCase() + what.slice(1).replace(/\.$/, "")}.</Text>
    <Text color="quiet" mb="5">
      {remedy} What was not saved is kept in your browser, and offered again when this is mended.
    </Text>
    <Flex gap="18px" align="center">
      <LinkButton onClick={() => window.location.reload()}>Try again</LinkButton>
      <a href="/backups">Backups</a>
      <a href="/">All tunes</a>
    </Flex>
  </Box>
);
