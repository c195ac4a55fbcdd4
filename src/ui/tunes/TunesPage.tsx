"use client";
import { Box, Flex, Heading, Input, Table, Text } from "@chakra-ui/react";
import Link from "next/link";
import type { Listed } from "../../server/collection";
import { ThemeSwitch } from "../ThemeSwitch";
import { WeaveStrip } from "../weave/WeaveStrip";
import { IntakeBox } from "./IntakeBox";

/** The first page: every tune with its weave, and the one place where tunes come in. */
export function TunesPage({ tunes, found, all, query }: { tunes: Listed[]; found: number; all: number; query: string }) {
  return (
    <Box minH="100%">
      <Flex as="header" h="56px" px="28px" align="center" gap="4" borderBottom="1px solid" borderColor="cord">
        <Text fontFamily="heading" fontSize="22px" fontWeight="600">Symphonos</Text>
        <Text color="quiet">one tune, a part for everyone in the room</Text>
        <Box ml="auto"><ThemeSwitch /></Box>
      </Flex>
      <Flex as="main" direction={{ base: "column", lg: "row" }} gap="40px" px="28px" py="28px" maxW="1280px" mx="auto" align="flex-start">
        <Box flex="1 1 0" minW="0" w="100%">
          <Flex align="baseline" gap="3" mb="3">
            <Heading as="h1" fontSize="26px" fontWeight="600">Tunes</Heading>
            <Text color="quiet">{query ? `${found} of ${all}` : all === 1 ? "1 tune" : `${all} tunes`}</Text>
            {all > 8 && (
              <Box as="form" ml="auto" role="search">
                <Input size="sm" name="find" type="search" aria-label="Find a title" placeholder="Find a title" defaultValue={query} borderColor="quiet" w="220px" />
              </Box>
            )}
          </Flex>
          {query && found === 0 ? (
            <Text color="quiet" py="6">No title holds “{query}”. <Link href="/">Show all tunes</Link></Text>
          ) : tunes.length === 0 ? (
            <Text color="quiet" maxW="46ch" py="6">
              Nothing here yet. Paste a tune in the box beside this, or press “Try an example” there, and it appears in this list ready to be worked on.
            </Text>
          ) : (
            <Table.Root size="md" variant="line" css={{ "& td, & th": { borderColor: "cord", bg: "transparent" } }}>
              <Table.Header>
                <Table.Row bg="transparent">
                  {["Tune", "What it is", "The weave"].map((head, i) => (
                    <Table.ColumnHeader key={head} ps={i === 0 ? "0" : undefined} color="quiet" fontWeight="500" fontSize="13px" w={i === 2 ? "34%" : undefined}>{head}</Table.ColumnHeader>
                  ))}
                </Table.Row>
              </Table.Header>
              <Table.Body>
                {tunes.map((tune) => (
                  <Table.Row key={tune.id} bg="transparent" _hover={{ bg: "linen" }}>
                    <Table.Cell ps="0" py="4">
                      <Link href={`/tune/${tune.id}`}><Text as="span" fontFamily="heading" fontSize="18px" fontWeight="500" textDecoration="underline" textDecorationColor="cord" textUnderlineOffset="4px">{tune.title}</Text></Link>
                    </Table.Cell>
                    <Table.Cell color="quiet">{tune.sentence}</Table.Cell>
                    <Table.Cell><WeaveStrip cells={tune.weave} height={22} /></Table.Cell>
                  </Table.Row>
                ))}
              </Table.Body>
            </Table.Root>
          )}
          {tunes.length < found && (
            <Box mt="4"><Link href={`/?${new URLSearchParams({ ...(query ? { find: query } : {}), shown: String(tunes.length + 50) })}`} scroll={false}>Show more ({found - tunes.length} to come)</Link></Box>
          )}
        </Box>
        <IntakeBox />
      </Flex>
    </Box>
  );
}
