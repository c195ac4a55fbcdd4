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
import { usePreviewPlayer } from "../sound/usePreviewPlayer";
import { useDeed } from "../useDeed";
import { addressOf } from "./address";
import { Filters, type Shelves } from "./Filters";
import { Legend } from "../weave/Legend";
import { IntakeBox } from "./IntakeBox";
import { ListPlayer } from "./PlayTune";
import { TunesTable } from "./TunesTable";

type Props = {
  tunes: Listed[];
  found: number;
  all: number;
  asked: Asked;
  notes: string;
  unread: boolean;
  shelves: Shelves;
};

/** The first page: every tune with its weave, and the place where tunes come in. */
export function TunesPage({ tunes, found, all, asked, notes, unread, shelves }: Props) {
  const [open, setOpen] = useState(all === 0);
  const [aside, setAside] = useState<number[]>([]);
  const router = useRouter();
  const { run, failure } = useDeed();
  const player = usePreviewPlayer();
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
          <Place to="/groups" words="Groups" />
          <Place to="/instruments" words="Instruments" />
          <Place to="/backups" words="Backups" />
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
          <Flex align="baseline" gap="3" mb="1" wrap="wrap">
            <Heading as="h1" fontSize="26px" fontWeight="600">
              Tunes
            </Heading>
            <Text color="quiet">{filtered ? `${found} of ${all}` : counted(all, "tune")}</Text>
          </Flex>
          {all > 0 && (
            <Flex align="center" gap="0 10px" mb="3" wrap="wrap" color="quiet">
              <Text>
                Open a tune for its chords, its harmony and everyone’s part. The strip beside it is the tune, woven bar
                by bar.
              </Text>
              <Legend />
            </Flex>
          )}
          {all > 0 && <Filters asked={asked} notes={notes} unread={unread} shelves={shelves} filtered={filtered} />}
          {player.failure && (
            <Text role="alert" color="madder" mb="2">
              No sound: {player.failure}
            </Text>
          )}
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
              No tune {notes && !unread ? "has these notes" : "fits"}
              {asked.find ? ` “${asked.find}”` : ""}.{" "}
              <Link href="/">
                <Text as="span" color="woad" textDecoration="underline">
                  Show all tunes
                </Text>
              </Link>
            </Text>
          )}
          {found > 0 && (
            <ListPlayer.Provider value={player}>
              <TunesTable
                tunes={tunes}
                asked={asked}
                notes={notes}
                narrow={open}
                tags={shelves.tags}
                onAside={setAside}
              />
            </ListPlayer.Provider>
          )}
          {tunes.length < found && (
            <Box mt="4">
              <Link href={addressOf(asked, { shown: tunes.length + 50, notes })} scroll={false}>
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

/** Another page of the application. */
const Place = ({ to, words }: { to: string; words: string }) => (
  <Link href={to}>
    <Text as="span" color="woad" fontSize="14px" textDecoration="underline" mr="6px">
      {words}
    </Text>
  </Link>
);
