"use client";
import { Box, Text } from "@chakra-ui/react";
import Link from "next/link";
import { useEffect, useState } from "react";
import { type Derived, readWork } from "../../core/ensemble";
import type { Loaded, Unread } from "../../server/states";
import { deriveWork } from "../../workers/derive";
import { wordsOf } from "../answered";
import { LinkButton } from "../controls/buttons";
import { Bench } from "./Bench";
import type { Room } from "./layout";

const NONE = {};

type Ready = { loaded: Loaded; derived: Derived };

/** Reads a tune and works it out, both in this browser; null where something newer has been asked meanwhile. */
async function made({ title: _, ...unread }: Unread): Promise<Ready | null> {
  const loaded = { ...unread, work: readWork(JSON.parse(unread.work)) };
  const derived = await deriveWork(loaded.work, () => {});
  return derived && { loaded, derived };
}

/** The working page of a very long tune: worked out here before it is shown. */
export function LateBench({ unread, room }: { unread: Unread; room: Room }) {
  const [ready, setReady] = useState<Ready | null>(null);
  const [failure, setFailure] = useState("");
  const [attempt, setAttempt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another attempt is asked for by its number
  useEffect(() => {
    let current = true;
    setFailure("");
    made(unread).then(
      (found) => current && found && setReady(found),
      (error: unknown) => current && setFailure(wordsOf(error)),
    );
    return () => {
      current = false;
    };
  }, [unread, attempt]);
  if (ready) return <Bench loaded={ready.loaded} derived={ready.derived} drawings={NONE} room={room} />;
  return (
    <Box as="main" maxW="560px" mx="auto" pt="20vh" px="6" role="status">
      <Text fontSize="18px" mb="3">
        {failure || `“${unread.title || "Untitled"}” is a long tune. It is being worked out…`}
      </Text>
      {failure && <LinkButton onClick={() => setAttempt(attempt + 1)}>try again</LinkButton>}{" "}
      <Link href="/">All tunes</Link>
    </Box>
  );
}
