"use client";
import { Box, Button, Flex, Heading, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { Asked } from "../../db";
import { putAside } from "../../server/actions";
import type { Listed } from "../../server/collection";
import { ThemeSwitch } from "../ThemeSwitch";
import { listen, takeChanged, tell } from "../saving/tabs";
import { UnsavedTunes } from "../saving/UnsavedTunes";
import { counted } from "../signs";
import { useDeed } from "../useDeed";
import { addressOf } from "./address";
import { Filters, type Shelves } from "./Filters";
import { IntakeBox } from "./IntakeBox";
import { TunesTable } from "./TunesTable";

type Props = { tunes: Listed[]; found: number; all: number; asked: Asked; shelves: Shelves };

/** The first page: every tune with its weave, and the place where tunes come in. */
export function TunesPage({ tunes, found, all, asked, shelves }: Props) {
  const [open, setOpen] = useState(all === 0);
  const [aside, setAside] = useState<number[]>([]);
  const router = useRouter();
  const { run, failure } = useDeed();
  const bringBack = () =>
    run(
      () => putAside({ ids: aside, aside: false }),
      () => {
        setAside([]);
        tell(null);
        router.refresh();
      },
    );
  // The list follows what is done on other pages and in other tabs; Back shows it as it was left.
  useEffect(() => {
    if (takeChanged()) router.refresh();
    return listen(() => router.refresh());
  }, [router]);
  const filtered = found !== all;
  return (
    <Box minH="100%">
      <Flex as="header" h="56px" px="28px" align="center" gap="4" borderBottom="1px solid" borderColor="cord">
        <Text fontFamily="heading" fontSize="22px" fontWeight="600">
          Symphonos
        </Text>
        <Text color="quiet" display={{ base: "none", sm: "block" }}>
          one tune, a part for everyone in the room
        </Text>
        <Flex ml="auto" gap="2" align="center">
          <Link href="/backups">
            <Text as="span" color="woad" fontSize="14px" textDecoration="underline">
              Backups
            </Text>
          </Link>
          <ThemeSwitch />
          {!open && (
            <Button size="sm" bg="block" color="onBlock" onClick={() => setOpen(true)}>
              Bring tunes in
            </Button>
          )}
        </Flex>
      </Flex>
      <Flex
        as="main"
        direction={{ base: "column-reverse", lg: "row" }}
        gap="32px"
        px="28px"
        py="22px"
        maxW="1400px"
        mx="auto"
        align="flex-start"
      >
        <Box flex="1 1 0" minW="0" w="100%">
          <Flex align="baseline" gap="3" mb="3" wrap="wrap">
            <Heading as="h1" fontSize="26px" fontWeight="600">
              Tunes
            </Heading>
            <Text color="quiet">{filtered ? `${found} of ${all}` : counted(all, "tune")}</Text>
          </Flex>
          {all > 0 && <Filters asked={asked} shelves={shelves} filtered={filtered} />}
          <UnsavedTunes />
          {aside.length > 0 && (
            <Flex bg="linen" borderRadius="6px" px="12px" py="8px" mb="2" align="center" gap="12px" role="status">
              <Text>{aside.length === 1 ? "1 tune was deleted." : `${aside.length} tunes were deleted.`}</Text>
              <Button size="sm" variant="outline" borderColor="quiet" color="ink" onClick={() => void bringBack()}>
                Bring back
              </Button>
              <Button size="sm" variant="plain" color="woad" onClick={() => setAside([])}>
                Good
              </Button>
              {failure}
            </Flex>
          )}
          {all === 0 && (
            <Text color="quiet" maxW="46ch" py="6">
              Nothing here yet. Paste a tune in the box beside this, or press “Try an example” there, and it appears in
              this list ready to be worked on.
            </Text>
          )}
          {all > 0 && found === 0 && (
            <Text color="quiet" py="6">
              No tune fits{asked.find ? ` “${asked.find}”` : ""}.{" "}
              <Link href="/">
                <Text as="span" color="woad" textDecoration="underline">
                  Show all tunes
                </Text>
              </Link>
            </Text>
          )}
          {found > 0 && <TunesTable tunes={tunes} asked={asked} narrow={open} tags={shelves.tags} onAside={setAside} />}
          {tunes.length < found && (
            <Box mt="4">
              <Link href={addressOf(asked, tunes.length + 50)} scroll={false}>
                <Text as="span" color="woad" textDecoration="underline">
                  Show more ({found - tunes.length} to come)
                </Text>
              </Link>
            </Box>
          )}
        </Box>
        {open && <IntakeBox onClose={all > 0 ? () => setOpen(false) : undefined} />}
      </Flex>
    </Box>
  );
}
